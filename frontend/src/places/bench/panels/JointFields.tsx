import { Link } from "react-router";
import type { Catalogue, Layer, Part } from "../../../api/client";
import { Choice, NumberField, OptionalNumber, Tick } from "../../../forms/fields";
import { numberAt, setterOf, type NumberKey, type Setter } from "../../../forms/form";
import type { FieldsProps } from "./BarFields";
import { lineName } from "../../../part/edits";
import { optionsOf } from "./materialOptions";
import { WallJointFields } from "./WallJointFields";

type JointLayer = Extract<Layer, { type: "joint" }>;
type Across = Extract<JointLayer["joint"], { kind: "across" }>;
type Glue = NonNullable<JointLayer["glue"]>;
type Brace = Across["braces"][number];

const PARTED = [
  { value: "core", label: "The core alone" },
  { value: "skins", label: "Core and skins; bars run on" },
  { value: "all", label: "All of it" },
] as const;
const REACHED = [
  { value: "all", label: "clean faces" },
  { value: "worked_in", label: "a closed crack, worked in" },
  { value: "over_old", label: "faces with old glue" },
] as const;

const FACES = [
  { value: "butt", label: "Butt, glued" },
  { value: "scarf", label: "Scarf, glued" },
  { value: "open", label: "Not glued" },
] as const;

/** How pieces are joined, with what, and since when the glue has been setting. */
export function JointFields(props: FieldsProps<JointLayer>) {
  const { layer, part, catalogue, at, set } = props;
  const j = layer.joint;
  const to = setterOf(j, set("joint"));
  const number = (
    key: NumberKey<typeof j>,
    label: string,
    quantity: "length" | "force" | "plain",
    step = 1,
  ) => (
    <NumberField
      key={key}
      label={label}
      value={numberAt(j, key) ?? 0}
      quantity={quantity}
      step={step}
      whole={["screws", "keys", "bolts", "bands"].includes(key)}
      problem={at(`joint.${key}`)}
      onChange={to(key)}
    />
  );
  const sheets = optionsOf(catalogue.sheets);
  return (
    <>
      {j.kind === "across" && <AcrossFields {...props} joint={j} to={setterOf(j, set("joint"))} />}
      {j.kind === "wall" && (
        <WallJointFields joint={j} to={setterOf(j, set("joint"))} {...{ catalogue, at }} />
      )}
      {(j.kind === "lap" || j.kind === "bond") && (
        <div className="col-span-full">
          <Choice
            label={j.kind === "lap" ? "What is lapped" : "What is glued"}
            value={j.of}
            options={part.layers.flatMap((l, i) =>
              ["bar", "strip", "film", "wall"].includes(l.type)
                ? [{ value: l.id, label: `${i + 1} ${lineName(l, catalogue)}` }]
                : [],
            )}
            problem={at("joint.of")}
            onChange={to("of")}
          />
        </div>
      )}
      {j.kind === "lap" && number("overlap_mm", "Overlap", "length", 5)}
      {j.kind === "plate" && (
        <>
          <div className="col-span-full">
            <Choice
              label="Plate"
              value={j.sheet}
              options={sheets}
              problem={at("joint.sheet")}
              onChange={to("sheet")}
            />
          </div>
          {number("long_mm", "Along the part", "length")}
          {number("wide_mm", "Across", "length")}
          <Choice
            label="Sits on"
            value={j.face}
            options={[
              { value: "lower", label: "Lower face" },
              { value: "upper", label: "Upper face" },
            ]}
            onChange={to("face")}
          />
          <Choice
            label="Loaded by"
            value={j.load}
            options={[
              { value: "given" as const, label: "Forces you name" },
              ...(part.kind === "surface" ? [{ value: "rod" as const, label: "The rod on its horn" }] : []),
            ]}
            problem={at("joint.load")}
            onChange={to("load")}
          />
          {j.load === "given" && number("pull_N", "Pulled off by", "force")}
          {j.load === "given" && number("slide_N", "Pushed along by", "force")}
          {number("arm_mm", j.load === "rod" ? "Arm of the horn" : "Acting above the face at", "length")}
          {number("screws", "Screws through it", "plain")}
          {j.screws > 0 && number("screw_mm", "Screws, across", "length", 0.5)}
          {number("keys", "Glue keys into the foam", "plain")}
          {j.keys > 0 && number("key_mm", "Keys, across", "length", 0.5)}
          {j.keys > 0 && number("key_deep_mm", "Keys, deep", "length")}
        </>
      )}
      {j.kind === "bolted" && (
        <>
          <div className="col-span-full">
            <Choice
              label="Bolt"
              value={j.bolt}
              options={optionsOf(
                catalogue.fasteners.filter((f) => f.family === "bolt" || f.family === "blind_nut"),
              )}
              problem={at("joint.bolt")}
              onChange={to("bolt")}
            />
          </div>
          {number("bolts", "Bolts", "plain")}
          {number("apart_mm", "Apart along the part", "length", 5)}
          {number("washer_mm", "Washer, across", "length")}
          <Choice
            label="Plate beneath"
            value={j.plate ?? ""}
            options={[{ value: "", label: "none" }, ...sheets]}
            problem={at("joint.plate")}
            onChange={(v) => to("plate")(v || null)}
          />
        </>
      )}
      {j.kind === "banded" && (
        <>
          <div className="col-span-full">
            <Choice
              label="Band"
              value={j.band}
              options={optionsOf(catalogue.fasteners.filter((f) => f.family === "band"))}
              problem={at("joint.band")}
              onChange={to("band")}
            />
          </div>
          {number("bands", "Bands", "plain")}
          {number("months", "Their age, months", "plain")}
          <Choice
            label="Peg"
            value={j.peg}
            options={optionsOf(catalogue.bars)}
            problem={at("joint.peg")}
            onChange={to("peg")}
          />
          {number("peg_in_mm", "Each peg's end in the foam", "length", 5)}
        </>
      )}
      {j.kind !== "bolted" && j.kind !== "banded" && <GlueFields {...props} />}
      {(j.kind === "plate" || j.kind === "across" || j.kind === "bolted") && (
        <NumberField
          label="Behind the nose"
          value={layer.chord_percent}
          quantity="percent"
          problem={at("chord_percent")}
          onChange={set("chord_percent")}
        />
      )}
    </>
  );
}

/** What meets what in a joint, as the glue chooser takes it. */
function meeting(layer: JointLayer, part: Part, catalogue: Catalogue): string {
  const j = layer.joint;
  const stock =
    j.kind === "plate" ? j.sheet : j.kind === "across" && j.faces === "open" ? j.braces[0]?.stock : undefined;
  const of = j.kind === "lap" || j.kind === "bond" ? part.layers.find((l) => l.id === j.of) : undefined;
  const key =
    stock ??
    (of?.type === "bar"
      ? of.stock
      : of?.type === "wall"
        ? of.sheet
        : of && "skin" in of
          ? of.skin
          : undefined);
  const family = [...catalogue.bars, ...catalogue.sheets, ...catalogue.skins].find(
    (m) => m.key === key,
  )?.family;
  const sort = typeof key === "object" ? "composite" : family ? catalogue.sorts[family] : undefined;
  const other = sort && sort !== "foam" ? sort : part.foam;
  return `/joints?what=glue&one=${part.foam}&other=${other}`;
}

/** Adhesive, how it is put on, and how old the joint is. */
function GlueFields({ layer, part, catalogue, at, set }: FieldsProps<JointLayer>) {
  const glue = layer.glue;
  const chosen = catalogue.adhesives.find((a) => a.key === glue?.adhesive);
  const techniques = Object.entries(chosen?.techniques ?? {}).map(([value, label]) => ({
    value: value as NonNullable<Glue["technique"]>,
    label,
  }));
  const given = (update: Partial<Glue>) =>
    set("glue")({ ...(glue ?? { adhesive: "", technique: null, after_min: null }), ...update });
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Adhesive"
          value={glue?.adhesive ?? ""}
          options={[
            { value: "", label: "none" },
            ...optionsOf(catalogue.adhesives.filter((a) => !part.foam || !a.attacks.includes(part.foam))),
          ]}
          problem={at("glue")}
          hint={chosen && `estimate, grade ${chosen.grade}; those that eat this foam are left out`}
          onChange={(v) => (v ? given({ adhesive: v, technique: null }) : set("glue")(null))}
        />
      </div>
      {part.foam && (
        <p className="col-span-full text-body">
          <Link to={meeting(layer, part, catalogue)}>Which glue for this?</Link>
        </p>
      )}
      {glue && techniques.length > 1 && (
        <div className="col-span-full">
          <Choice
            label="Put on"
            value={glue.technique ?? techniques[0]!.value}
            options={techniques}
            problem={at("glue.technique")}
            onChange={(v) => given({ technique: v })}
          />
        </div>
      )}
      {glue && (
        <OptionalNumber
          label="Minutes since closed"
          value={glue.after_min ?? null}
          quantity="plain"
          problem={at("glue.after_min")}
          hint="open: cured"
          onChange={(v) => given({ after_min: v })}
        />
      )}
    </>
  );
}

interface AcrossProps extends FieldsProps<JointLayer> {
  joint: Across;
  to: Setter<Across>;
}

/** What is parted, how its faces meet, and what reaches over. */
function AcrossFields({ part, catalogue, at, joint: j, to }: AcrossProps) {
  const brace = (n: number, update: Partial<Brace> | null) =>
    to("braces")(j.braces.flatMap((b, i) => (i !== n ? [b] : update === null ? [] : [{ ...b, ...update }])));
  const skins = part.layers.filter((l) => l.type === "strip" || l.type === "film" || l.type === "wall");
  return (
    <>
      <Choice label="What ends here" value={j.parted} options={PARTED} onChange={to("parted")} />
      <Choice
        label="Faces"
        value={j.faces}
        options={FACES}
        problem={at("joint.faces")}
        onChange={to("faces")}
      />
      {j.faces === "scarf" && (
        <NumberField
          label="Slope, 1 to"
          value={j.slope}
          quantity="plain"
          problem={at("joint.slope")}
          onChange={to("slope")}
        />
      )}
      {j.faces !== "open" && (
        <div className="col-span-full">
          <Choice
            label="The glue reached"
            value={j.reached}
            options={REACHED}
            hint={j.extent ? "of a mended crack: the sound rest of the core bears as well" : undefined}
            onChange={to("reached")}
          />
        </div>
      )}
      {skins.length > 0 && (
        <fieldset className="col-span-full">
          <legend className="label-type text-small">Runs across it and bridges it</legend>
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
                label="Made of"
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
              label="To each side"
              value={b.each_side_mm}
              quantity="length"
              step={5}
              problem={here("each_side_mm")}
              onChange={(v) => brace(n, { each_side_mm: v })}
            />
            <NumberField
              label="How many"
              value={b.count}
              quantity="plain"
              whole
              problem={here("count")}
              onChange={(v) => brace(n, { count: v })}
            />
            {sheet && (
              <NumberField
                label="High"
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
              Take brace {n + 1} out
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
          Add a dowel, wire, tube or plate
        </button>
      )}
    </>
  );
}
