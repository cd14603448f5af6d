import type { Airframe, Catalogue, Part, Problem } from "../../../api/client";
import { Choice, NumberField, OptionalNumber, TextField, Tick } from "../../../forms/fields";
import { plain } from "../../../forms/units";
import { AerofoilFile } from "./AerofoilFile";
import { FoldedFields } from "./FoldedFields";
import { problemAt, withSpan } from "../../../part/edits";

interface Props {
  part: Part;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  catalogue: Catalogue;
  document: Airframe;
  edit: (change: (document: Airframe) => Airframe) => void;
  /** Make this part the left one and a copy of it the right one. */
  setApart: () => void;
}

const SHAPES = [
  { value: "four_digit", label: "Four-digit aerofoil" },
  { value: "rectangle", label: "Rectangle" },
  { value: "ellipse", label: "Ellipse" },
  { value: "folded", label: "Board folded over an inner spar" },
];

/** A shape to start from when another one is chosen. */
const FIRST: Record<string, Part["section"]> = {
  four_digit: { shape: "four_digit", camber_percent: 2, camber_position_percent: 40 },
  rectangle: { shape: "rectangle" },
  ellipse: { shape: "ellipse" },
  folded: {
    shape: "folded",
    board: "foamboard_light_5",
    spar_front_percent: 25,
    spar_rear_percent: 42,
    nose: "strip",
    nose_mm: 12,
    nose_creases: 4,
    creases_percent: [],
    crease_rise_percent: 0,
    tail_bevel_mm: 25,
  },
};

const ROOTS = [
  { value: "held", label: "Held: in one piece, or clamped" },
  { value: "glued", label: "Glued face to face" },
  { value: "bands", label: "Held down by bands" },
];

/** Foam, outline and section of the part, and the flying mass of its airframe. */
export function ShapePanel({ part, problems, path, change, catalogue, document, edit, setApart }: Props) {
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
        hint={
          key.endsWith("thickness_mm") && part.kind !== "fuselage"
            ? `${plain((100 * part[key]) / chord)} % of the chord`
            : undefined
        }
        onChange={set(key)}
      />
    );
  };
  const body = part.kind === "fuselage";
  const foam = catalogue.foams.find((f) => f.key === part.foam);
  const section = part.section;
  return (
    <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
      <div className="col-span-full">
        <Choice
          label="Core"
          value={part.foam ?? ""}
          options={[
            { value: "", label: "Hollow, of walls and bars" },
            ...catalogue.foams.map((f) => ({ value: f.key, label: f.name })),
          ]}
          problem={at("foam")}
          hint={
            foam &&
            `E ${plain(foam.E_tension_MPa.low)}–${plain(foam.E_tension_MPa.high)} MPa pulled, ${foam.brittle ? "snaps" : "yields"}; estimate, grade ${foam.grade}`
          }
          onChange={(v) => set("foam")(v || null)}
        />
      </div>
      {!part.foam && (
        <>
          <div className="col-span-full">
            <Choice
              label="Ribs or formers"
              value={part.rib_sheet ?? ""}
              options={[
                { value: "", label: "None" },
                ...catalogue.sheets.map((s) => ({ value: s.key, label: s.name })),
              ]}
              problem={at("rib_sheet")}
              onChange={(v) => set("rib_sheet")(v || null)}
            />
          </div>
          <NumberField
            label="Between ribs or formers"
            value={part.rib_spacing_mm}
            quantity="length"
            step={10}
            problem={at("rib_spacing_mm")}
            onChange={set("rib_spacing_mm")}
          />
          {part.rib_sheet && (
            <NumberField
              label="Cut away inside"
              value={part.rib_open_percent}
              quantity="percent"
              step={5}
              problem={at("rib_open_percent")}
              onChange={set("rib_open_percent")}
            />
          )}
        </>
      )}
      <NumberField
        label={body ? "Length of this part" : "Span of this part"}
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
      {length(body ? "Width at the root" : "Root chord", "root_chord_mm")}
      {length(body ? "Width at the end" : "Tip chord", "tip_chord_mm")}
      {length(body ? "Height at the root" : "Root thickness", "root_thickness_mm")}
      {length(body ? "Height at the end" : "Tip thickness", "tip_thickness_mm")}
      <div className="col-span-full">
        <Choice
          label="Section"
          value={section.shape ?? "four_digit"}
          options={
            section.shape === "points" ? [...SHAPES, { value: "points", label: section.name }] : SHAPES
          }
          problem={at("section")}
          onChange={(shape) => shape !== "points" && change((p) => ({ ...p, section: FIRST[shape]! }))}
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
      {section.shape === "folded" && <FoldedFields {...{ section, catalogue, at, change }} />}
      {part.foam && (
        <div className="col-span-full">
          <Choice
            label="The outline is that of"
            value={part.outline}
            options={[
              { value: "core", label: "The core: skins come on top" },
              { value: "finished", label: "The finished part: the core is cut smaller" },
            ]}
            problem={at("outline")}
            onChange={set("outline")}
          />
        </div>
      )}
      {part.kind !== "surface" && (
        <div className="col-span-full grid gap-2 border-t border-rule pt-3">
          <Choice
            label="Root"
            value={part.root?.kind ?? "held"}
            options={ROOTS}
            problem={at("root")}
            onChange={(kind) =>
              set("root")(
                kind === "glued"
                  ? { kind, covered: true }
                  : kind === "bands"
                    ? { kind, hold_N: 60 }
                    : { kind },
              )
            }
          />
          {part.root?.kind === "glued" && (
            <Tick
              label="Tape, film or cloth runs over the seam"
              checked={part.root.covered}
              onChange={(covered) => set("root")({ kind: "glued", covered })}
            />
          )}
          {part.root?.kind === "bands" && (
            <NumberField
              label="Pull of all bands together"
              value={part.root.hold_N}
              quantity="force"
              step={5}
              problem={at("root.hold_N")}
              onChange={(hold_N) => set("root")({ kind: "bands", hold_N })}
            />
          )}
        </div>
      )}
      {(part.kind === "wing" || part.kind === "tail") && (
        <div className="col-span-full grid grid-cols-2 items-start gap-x-4 gap-y-3">
          <div className="col-span-full">
            <Tick
              label="A control surface hangs on its rear edge"
              checked={part.control != null}
              onChange={(on) =>
                set("control")(
                  on
                    ? {
                        start_mm: Math.round(0.5 * part.span_mm),
                        end_mm: Math.round(0.95 * part.span_mm),
                        chord_percent: 25,
                      }
                    : null,
                )
              }
            />
          </div>
          {part.control && (
            <>
              <NumberField
                label="Surface from"
                value={part.control.start_mm}
                quantity="length"
                step={5}
                problem={at("control.start_mm")}
                onChange={(v) => set("control")({ ...part.control, start_mm: v })}
              />
              <NumberField
                label="Surface to"
                value={part.control.end_mm}
                quantity="length"
                step={5}
                problem={at("control.end_mm")}
                onChange={(v) => set("control")({ ...part.control, end_mm: v })}
              />
              <NumberField
                label="Share of the chord"
                value={part.control.chord_percent}
                quantity="percent"
                problem={at("control.chord_percent")}
                onChange={(v) => set("control")({ ...part.control, chord_percent: v })}
              />
            </>
          )}
          <div className="col-span-full">
            <OptionalNumber
              label="Lift slope of the wing, per radian"
              value={part.lift_slope ?? null}
              quantity="plain"
              problem={at("lift_slope")}
              hint={part.lift_slope == null ? "Open: 2π AR/(AR + 2), by its aspect ratio." : undefined}
              onChange={set("lift_slope")}
            />
          </div>
        </div>
      )}
      <div className="col-span-full border-t border-rule pt-3">
        <TextField label="Name of the part" value={part.name} problem={at("name")} onChange={set("name")} />
      </div>
      <div className="col-span-full">
        <Choice
          label="How many"
          value={part.hand}
          options={[
            { value: "both", label: "Two: left and right, mirrored" },
            { value: "left", label: "The left one only" },
            { value: "right", label: "The right one only" },
            { value: "single", label: "One" },
          ]}
          onChange={set("hand")}
        />
        {part.hand === "both" && part.kind !== "plank" && (
          <button type="button" className="key-button mt-2 w-full" onClick={setApart}>
            Set left and right apart
          </button>
        )}
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
