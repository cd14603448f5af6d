import type { Airframe, Catalogue, Part, Problem } from "../api/client";
import { Choice, NumberField, TextField } from "../shared/fields";
import { plain } from "../shared/units";
import { AerofoilFile } from "./AerofoilFile";
import { problemAt, withSpan } from "./edits";

interface Props {
  part: Part;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  catalogue: Catalogue;
  document: Airframe;
  edit: (change: (document: Airframe) => Airframe) => void;
}

const SHAPES = [
  { value: "four_digit", label: "Four-digit aerofoil" },
  { value: "rectangle", label: "Rectangle" },
];

/** Foam, outline and section of the part, and the flying mass of its airframe. */
export function ShapePanel({ part, problems, path, change, catalogue, document, edit }: Props) {
  const set = (key: keyof Part) => (value: unknown) => change((p) => ({ ...p, [key]: value }));
  const at = (key: string) => problemAt(problems, `${path}.${key}`);
  const length = (
    label: string,
    key: "root_chord_mm" | "tip_chord_mm" | "root_thickness_mm" | "tip_thickness_mm",
  ) => {
    const chord = key.startsWith("root") ? part.root_chord_mm : part.tip_chord_mm;
    return (
      <NumberField
        label={label}
        value={part[key]}
        quantity="length"
        step={key.endsWith("thickness_mm") ? 0.5 : 1}
        problem={at(key)}
        hint={key.endsWith("thickness_mm") ? `${plain((100 * part[key]) / chord)} % of the chord` : undefined}
        onChange={set(key)}
      />
    );
  };
  const foam = catalogue.foams.find((f) => f.key === part.foam);
  const section = part.section;
  return (
    <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
      <div className="col-span-full">
        <Choice
          label="Foam"
          value={part.foam}
          options={catalogue.foams.map((f) => ({ value: f.key, label: f.name }))}
          problem={at("foam")}
          hint={
            foam &&
            `E ${plain(foam.E_tension_MPa.low)}–${plain(foam.E_tension_MPa.high)} MPa pulled, ${foam.brittle ? "snaps" : "yields"}; estimate, grade ${foam.grade}`
          }
          onChange={set("foam")}
        />
      </div>
      <NumberField
        label="Span of this part"
        value={part.span_mm}
        quantity="length"
        step={5}
        problem={at("span_mm")}
        onChange={(v) => change((p) => (v > 0 ? withSpan(p, v) : { ...p, span_mm: v }))}
      />
      <NumberField
        label="Tip set back"
        value={part.tip_setback_mm}
        quantity="length"
        problem={at("tip_setback_mm")}
        onChange={set("tip_setback_mm")}
      />
      {length("Root chord", "root_chord_mm")}
      {length("Tip chord", "tip_chord_mm")}
      {length("Root thickness", "root_thickness_mm")}
      {length("Tip thickness", "tip_thickness_mm")}
      <div className="col-span-full">
        <Choice
          label="Section"
          value={section.shape ?? "four_digit"}
          options={
            section.shape === "points" ? [...SHAPES, { value: "points", label: section.name }] : SHAPES
          }
          problem={at("section")}
          onChange={(shape) =>
            shape !== "points" &&
            change((p) => ({
              ...p,
              section:
                shape === "rectangle"
                  ? { shape: "rectangle" }
                  : { shape: "four_digit", camber_percent: 2, camber_position_percent: 40 },
            }))
          }
        />
      </div>
      <AerofoilFile change={change} />
      {section.shape === "four_digit" && (
        <>
          <NumberField
            label="Camber"
            value={section.camber_percent}
            quantity="percent"
            step={0.5}
            problem={at("section.camber_percent")}
            onChange={(v) => change((p) => ({ ...p, section: { ...section, camber_percent: v } }))}
          />
          <NumberField
            label="Camber place"
            value={section.camber_position_percent}
            quantity="percent"
            step={5}
            problem={at("section.camber_position_percent")}
            onChange={(v) => change((p) => ({ ...p, section: { ...section, camber_position_percent: v } }))}
          />
        </>
      )}
      <div className="col-span-full border-t border-rule pt-3">
        <TextField label="Name of the part" value={part.name} problem={at("name")} onChange={set("name")} />
      </div>
      <NumberField
        label="All-up mass of the airframe"
        value={document.all_up_mass_g}
        quantity="mass"
        step={10}
        problem={problemAt(problems, "all_up_mass_g")}
        onChange={(v) => edit((d) => ({ ...d, all_up_mass_g: v }))}
      />
      <NumberField
        label="Fastest speed meant"
        value={document.top_speed_m_s ?? 20}
        quantity="speed"
        problem={problemAt(problems, "top_speed_m_s")}
        onChange={(v) => edit((d) => ({ ...d, top_speed_m_s: v }))}
      />
    </div>
  );
}
