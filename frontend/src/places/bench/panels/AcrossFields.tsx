import type { Layer } from "../../../api/client";
import { Choice, NumberField, Tick } from "../../../forms/fields";
import type { Setter } from "../../../forms/form";
import { lineName } from "../../../part/edits";
import type { FieldsProps } from "./BarFields";
import { optionsOf } from "../../../part/materialOptions";

type JointLayer = Extract<Layer, { type: "joint" }>;
type Across = Extract<JointLayer["joint"], { kind: "across" }>;
type Brace = Across["braces"][number];

const PARTED = [
  { value: "core", label: "The core alone" },
  { value: "skins", label: "Core and skins (spars continue)" },
  { value: "all", label: "Everything" },
] as const;
const REACHED = [
  { value: "all", label: "Clean faces" },
  { value: "worked_in", label: "Closed crack, glue worked in" },
  { value: "over_old", label: "Faces with old glue" },
] as const;

const FACES = [
  { value: "butt", label: "Butt, glued" },
  { value: "scarf", label: "Scarf, glued" },
  { value: "open", label: "Not glued" },
] as const;

interface AcrossProps extends FieldsProps<JointLayer> {
  joint: Across;
  to: Setter<Across>;
}

/** What is parted, how its faces meet, and what reaches over. */
export function AcrossFields({ part, catalogue, at, joint: j, to }: AcrossProps) {
  const brace = (n: number, update: Partial<Brace> | null) =>
    to("braces")(j.braces.flatMap((b, i) => (i !== n ? [b] : update === null ? [] : [{ ...b, ...update }])));
  const skins = part.layers.filter((l) => l.type === "strip" || l.type === "film" || l.type === "wall");
  return (
    <>
      <Choice label="What is joined here" value={j.parted} options={PARTED} onChange={to("parted")} />
      <Choice
        label="Face joint"
        value={j.faces}
        options={FACES}
        problem={at("joint.faces")}
        onChange={to("faces")}
      />
      {j.faces === "scarf" && (
        <NumberField
          label="Scarf slope, 1 :"
          value={j.slope}
          quantity="plain"
          problem={at("joint.slope")}
          onChange={to("slope")}
        />
      )}
      {j.faces !== "open" && (
        <div className="col-span-full">
          <Choice
            label="Condition of faces"
            value={j.reached}
            options={REACHED}
            hint={j.extent ? "of a repaired crack: the sound core also carries load" : undefined}
            onChange={to("reached")}
          />
        </div>
      )}
      {skins.length > 0 && (
        <fieldset className="col-span-full">
          <legend className="label-type text-small">Bridges the joint</legend>
          {skins.map((l) => (
            <Tick
              key={l.id}
              label={lineName(l, catalogue)}
              checked={j.bridges.includes(l.id)}
              onChange={(on) =>
                to("bridges")(on ? [...j.bridges, l.id] : j.bridges.filter((b) => b !== l.id))
              }
            />
          ))}
          {at("joint.bridges") && <p className="text-note text-fail">{at("joint.bridges")!.message}</p>}
        </fieldset>
      )}
      {j.braces.map((b, n) => {
        const here = (key: string) => at(`joint.braces[${n}].${key}`);
        const sheet = catalogue.sheets.some((s) => s.key === b.stock);
        return (
          <fieldset
            key={n}
            className="col-span-full grid grid-cols-2 gap-x-4 gap-y-2 border-l-[3px] border-rule pl-3"
          >
            <legend className="label-type text-small">Brace {n + 1}</legend>
            <div className="col-span-full">
              <Choice
                label="Material"
                value={b.stock}
                options={[...optionsOf(catalogue.bars), ...optionsOf(catalogue.sheets)]}
                problem={here("stock")}
                onChange={(stock) =>
                  brace(n, {
                    stock,
                    deep_mm: catalogue.sheets.some((s) => s.key === stock)
                      ? (b.deep_mm ??
                        Math.floor(0.6 * Math.min(part.root_thickness_mm, part.tip_thickness_mm)))
                      : null,
                  })
                }
              />
            </div>
            <NumberField
              label="Length each side"
              value={b.each_side_mm}
              quantity="length"
              step={5}
              problem={here("each_side_mm")}
              onChange={(v) => brace(n, { each_side_mm: v })}
            />
            <NumberField
              label="Number"
              value={b.count}
              quantity="plain"
              whole
              problem={here("count")}
              onChange={(v) => brace(n, { count: v })}
            />
            {sheet && (
              <NumberField
                label="Height"
                value={b.deep_mm ?? 10}
                quantity="length"
                problem={here("deep_mm")}
                onChange={(v) => brace(n, { deep_mm: v })}
              />
            )}
            <Tick label="Glued in" checked={b.glued} onChange={(v) => brace(n, { glued: v })} />
            <button
              type="button"
              className="key-button col-span-full justify-self-start"
              onClick={() => brace(n, null)}
            >
              Remove brace {n + 1}
            </button>
          </fieldset>
        );
      })}
      {j.braces.length < 4 && (
        <button
          type="button"
          className="key-button col-span-full justify-self-start"
          onClick={() =>
            to("braces")([
              ...j.braces,
              { stock: "carbon_rod_3", count: 1, each_side_mm: 60, deep_mm: null, glued: true },
            ])
          }
        >
          Add brace
        </button>
      )}
    </>
  );
}
