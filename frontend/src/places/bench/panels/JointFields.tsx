import type { ReactNode } from "react";
import type { Layer, Part, Problem } from "../../../api/client";
import { Choice, NumberField, Tick } from "../../../forms/fields";
import { numberAt, setterOf, type NumberKey, type Setter } from "../../../forms/form";
import type { FieldsProps } from "./BarFields";
import { lineName } from "../../../part/edits";
import { optionsOf } from "../../../part/materialOptions";
import { AcrossFields } from "./AcrossFields";
import { GlueFields } from "./GlueFields";
import { WallJointFields } from "./WallJointFields";

type JointLayer = Extract<Layer, { type: "joint" }>;

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
            label={j.kind === "lap" ? "Lapped item" : "Glued item"}
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
      {j.kind === "bond" && (
        <Tick label="Ends tapered" checked={j.tapered === true} onChange={to("tapered")} />
      )}
      {j.kind === "lap" && number("overlap_mm", "Overlap", "length", 5)}
      {j.kind === "plate" && (
        <PlateFields {...{ part, sheets, at, number }} plate={j} to={setterOf(j, set("joint"))} />
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
          {number("apart_mm", "Bolt spacing", "length", 5)}
          {number("washer_mm", "Washer diameter", "length")}
          <Choice
            label="Plate underneath"
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
              label="Rubber band"
              value={j.band}
              options={optionsOf(catalogue.fasteners.filter((f) => f.family === "band"))}
              problem={at("joint.band")}
              onChange={to("band")}
            />
          </div>
          {number("bands", "Number of bands", "plain")}
          {number("months", "Band age, months", "plain")}
          <Choice
            label="Peg"
            value={j.peg}
            options={optionsOf(catalogue.bars)}
            problem={at("joint.peg")}
            onChange={to("peg")}
          />
          {number("peg_in_mm", "Peg length in foam", "length", 5)}
        </>
      )}
      {j.kind !== "bolted" && j.kind !== "banded" && <GlueFields {...props} />}
      {(j.kind === "plate" || j.kind === "across" || j.kind === "bolted") && (
        <NumberField
          label="Chord position"
          value={layer.chord_percent}
          quantity="percent"
          problem={at("chord_percent")}
          onChange={set("chord_percent")}
        />
      )}
    </>
  );
}

interface PlateProps {
  plate: Extract<JointLayer["joint"], { kind: "plate" }>;
  part: Part;
  sheets: ReturnType<typeof optionsOf>;
  at: (key: string) => Problem | undefined;
  number: (
    key: NumberKey<JointLayer["joint"]>,
    label: string,
    quantity: "length" | "force" | "plain",
    step?: number,
  ) => ReactNode;
  to: Setter<Extract<JointLayer["joint"], { kind: "plate" }>>;
}

/** A plate, what pulls at it, and what holds it besides glue. */
function PlateFields({ plate: p, part, sheets, at, number, to }: PlateProps) {
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Plate"
          value={p.sheet}
          options={sheets}
          problem={at("joint.sheet")}
          onChange={to("sheet")}
        />
      </div>
      {number("long_mm", "Along the part", "length")}
      {number("wide_mm", "Across", "length")}
      <Choice
        label="Glued to"
        value={p.face}
        options={[
          { value: "lower", label: "Lower face" },
          { value: "upper", label: "Upper face" },
        ]}
        onChange={to("face")}
      />
      <Choice
        label="Load"
        value={p.load}
        options={[
          { value: "given" as const, label: "Forces I enter" },
          ...(part.kind === "surface" ? [{ value: "rod" as const, label: "Pushrod on its horn" }] : []),
        ]}
        problem={at("joint.load")}
        onChange={to("load")}
      />
      {p.load === "given" && number("pull_N", "Pull-off force", "force")}
      {p.load === "given" && number("slide_N", "Sideways force", "force")}
      {number("arm_mm", p.load === "rod" ? "Horn arm" : "Height above face", "length")}
      {number("screws", "Screws", "plain")}
      {p.screws > 0 && number("screw_mm", "Screw diameter", "length", 0.5)}
      {part.foam == null ? (
        <div className="col-span-full">
          <Choice
            label="Sheet inside, clamped by the screws"
            value={p.backed ?? ""}
            options={[{ value: "", label: "none" }, ...sheets]}
            problem={at("joint.backed")}
            onChange={(v) => to("backed")(v || null)}
          />
        </div>
      ) : (
        number("keys", "Glue-filled holes", "plain")
      )}
      {p.keys > 0 && number("key_mm", "Hole diameter", "length", 0.5)}
      {p.keys > 0 && number("key_deep_mm", "Hole depth", "length")}
    </>
  );
}
