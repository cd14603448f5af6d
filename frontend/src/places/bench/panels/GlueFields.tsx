import { Link } from "react-router";
import type { Catalogue, Layer, Part } from "../../../api/client";
import { Choice, OptionalNumber } from "../../../forms/fields";
import { bodyOf, gluedAs } from "../../../part/gluing";
import type { FieldsProps } from "./BarFields";
import { optionsOf } from "../../../part/materialOptions";

type JointLayer = Extract<Layer, { type: "joint" }>;
type Glue = NonNullable<JointLayer["glue"]>;

/** What meets what in a joint, as the glue chooser takes it; nothing where it is not known what the part is made of. */
function meeting(layer: JointLayer, part: Part, catalogue: Catalogue): string | null {
  const one = bodyOf(part, catalogue);
  if (one === undefined) return null;
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
  const other =
    key === undefined ? one : typeof key === "object" ? "composite" : gluedAs(key, one, catalogue);
  return `/joints?what=glue&one=${one}&other=${other ?? one}`;
}

/** Adhesive, how it is put on, and how old the joint is. */
export function GlueFields({ layer, part, catalogue, at, set }: FieldsProps<JointLayer>) {
  const glue = layer.glue;
  const asked = meeting(layer, part, catalogue);
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
          hint={
            chosen && `estimate, data quality ${chosen.grade}; glues that attack this foam are not listed`
          }
          onChange={(v) => (v ? given({ adhesive: v, technique: null }) : set("glue")(null))}
        />
      </div>
      {asked && (
        <p className="col-span-full text-body">
          <Link to={asked}>Choose a glue</Link>
        </p>
      )}
      {glue && techniques.length > 1 && (
        <div className="col-span-full">
          <Choice
            label="Application"
            value={glue.technique ?? techniques[0]!.value}
            options={techniques}
            problem={at("glue.technique")}
            onChange={(v) => given({ technique: v })}
          />
        </div>
      )}
      {glue && (
        <OptionalNumber
          label="Minutes since closing"
          value={glue.after_min ?? null}
          quantity="plain"
          problem={at("glue.after_min")}
          hint="empty: fully cured"
          onChange={(v) => given({ after_min: v })}
        />
      )}
    </>
  );
}
