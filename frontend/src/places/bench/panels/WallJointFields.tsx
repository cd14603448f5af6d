import type { Catalogue, Layer, Problem } from "../../../api/client";
import { Choice, NumberField, OptionalNumber } from "../../../forms/fields";
import type { Setter } from "../../../forms/form";
import { optionsOf } from "../../../part/materialOptions";

type WallJoint = Extract<Extract<Layer, { type: "joint" }>["joint"], { kind: "wall" }>;
type Strap = WallJoint["straps"][number];

const FACES = [
  { value: "all", label: "All walls" },
  { value: "upper", label: "The upper wall" },
  { value: "lower", label: "The lower wall" },
  { value: "front", label: "The front edge" },
  { value: "rear", label: "The rear edge" },
] as const;
const LIES = [
  { value: "outside", label: "outside" },
  { value: "inside", label: "inside" },
  { value: "both", label: "outside and inside" },
  { value: "flutes", label: "in the flutes" },
] as const;
const USUAL: Strap = {
  stock: "craftstick_10x2",
  lies: "outside",
  count: 2,
  wide_mm: null,
  each_side_mm: 40,
};

interface Props {
  joint: WallJoint;
  catalogue: Catalogue;
  at: (key: string) => Problem | undefined;
  to: Setter<WallJoint>;
}

/** A seam in the walls of a hollow part: which wall, and the straps that hold it. */
export function WallJointFields({ joint: j, catalogue, at, to }: Props) {
  const strap = (n: number, update: Partial<Strap> | null) =>
    to("straps")(j.straps.flatMap((s, i) => (i !== n ? [s] : update === null ? [] : [{ ...s, ...update }])));
  const flat = catalogue.bars.filter((b) => b.shape === "flat" || b.shape === "rod");
  const stocks = optionsOf([...flat, ...catalogue.sheets, ...catalogue.skins]);
  return (
    <>
      <Choice
        label="What is in two"
        value={j.face}
        options={FACES}
        problem={at("joint.face")}
        onChange={to("face")}
      />
      <OptionalNumber
        label="Seam along an edge, length"
        value={j.along_mm ?? null}
        quantity="length"
        problem={at("joint.along_mm")}
        hint="open: across the part"
        onChange={to("along_mm")}
      />
      {j.straps.map((s, n) => (
        <fieldset
          key={n}
          className="col-span-full grid grid-cols-2 gap-x-4 gap-y-2 border-t border-rule pt-2"
        >
          <legend className="label-type text-small">Straps {n + 1}</legend>
          <div className="col-span-full">
            <Choice
              label="Material"
              value={s.stock}
              options={stocks}
              problem={at(`joint.straps[${n}].stock`)}
              onChange={(stock) => strap(n, { stock })}
            />
          </div>
          <Choice label="Lie" value={s.lies} options={LIES} onChange={(lies) => strap(n, { lies: lies })} />
          <NumberField
            label="On each wall"
            value={s.count}
            quantity="plain"
            whole
            problem={at(`joint.straps[${n}].count`)}
            onChange={(count) => strap(n, { count })}
          />
          <NumberField
            label="Length each side"
            value={s.each_side_mm}
            quantity="length"
            step={5}
            problem={at(`joint.straps[${n}].each_side_mm`)}
            onChange={(each_side_mm) => strap(n, { each_side_mm })}
          />
          <OptionalNumber
            label="Width"
            value={s.wide_mm ?? null}
            quantity="length"
            problem={at(`joint.straps[${n}].wide_mm`)}
            hint="open: a bar's own width, else all of the wall"
            onChange={(wide_mm) => strap(n, { wide_mm })}
          />
          <button
            type="button"
            className="key-button justify-self-start text-fail"
            onClick={() => strap(n, null)}
          >
            Remove<span className="sr-only"> straps {n + 1}</span>
          </button>
        </fieldset>
      ))}
      {j.straps.length < 4 && (
        <button
          type="button"
          className="key-button justify-self-start"
          onClick={() => to("straps")([...j.straps, USUAL])}
        >
          Add straps
        </button>
      )}
    </>
  );
}
