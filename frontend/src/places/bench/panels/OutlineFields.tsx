import type { Catalogue, Part } from "../../../api/client";
import { Choice, NumberField } from "../../../forms/fields";
import { formOf, type Form } from "../../../forms/form";
import { plain, show } from "../../../forms/units";
import { withSpan } from "../../../part/edits";
import { AerofoilFile } from "./AerofoilFile";
import { FoldedFields } from "./FoldedFields";
import { PlateCorners } from "./PlateCorners";

interface Props {
  form: Form<Part>;
  change: (edit: (part: Part) => Part) => void;
  catalogue: Catalogue;
}

type Shape = NonNullable<Part["section"]["shape"]>;

const SHAPES: { value: Shape; label: string }[] = [
  { value: "four_digit", label: "Four-digit aerofoil" },
  { value: "rectangle", label: "Rectangle" },
  { value: "ellipse", label: "Elliptical" },
  { value: "folded", label: "Board folded over an inner spar" },
];

/** A shape to start from when another one is chosen. */
const FIRST: Record<Exclude<Shape, "points">, Part["section"]> = {
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

/** Both halves and what lies between them. */
function fullSpan(part: Part): string | undefined {
  if (part.hand === "single") return undefined;
  return `full span ${show(2 * (part.span_mm + part.place.y_mm), "length", 4)}`;
}

/** Size and section of the part. */
export function OutlineFields({ form, change, catalogue }: Props) {
  const part = form.value;
  const section = part.section;
  const body = part.kind === "fuselage";
  const thick = (of: "root" | "tip") =>
    body ? undefined : `${plain((100 * part[`${of}_thickness_mm`]) / part[`${of}_chord_mm`])} % of chord`;
  return (
    <>
      <NumberField
        label={body ? "Length" : "Span"}
        quantity="length"
        step={5}
        {...form.field("span_mm")}
        hint={part.kind === "wing" || part.kind === "tail" ? fullSpan(part) : undefined}
        onChange={(v) => change((p) => (v > 0 ? withSpan(p, v) : { ...p, span_mm: v }))}
      />
      <NumberField label="Tip sweep-back" quantity="length" {...form.field("tip_setback_mm")} />
      <NumberField
        label={body ? "Width at front end" : "Root chord"}
        quantity="length"
        {...form.field("root_chord_mm")}
      />
      <NumberField
        label={body ? "Width at rear end" : "Tip chord"}
        quantity="length"
        {...form.field("tip_chord_mm")}
      />
      <NumberField
        label={body ? "Height at front end" : "Root thickness"}
        quantity="length"
        step={0.5}
        hint={thick("root")}
        {...form.field("root_thickness_mm")}
      />
      <NumberField
        label={body ? "Height at rear end" : "Tip thickness"}
        quantity="length"
        step={0.5}
        hint={thick("tip")}
        {...form.field("tip_thickness_mm")}
      />
      <div className="col-span-full">
        <Choice
          label="Section shape"
          value={section.shape ?? "four_digit"}
          options={
            section.shape === "points" ? [...SHAPES, { value: "points", label: section.name }] : SHAPES
          }
          problem={form.at("section")}
          onChange={(shape) => shape !== "points" && form.set("section", FIRST[shape])}
        />
      </div>
      {section.shape === "rectangle" && part.foam ? (
        <PlateCorners {...{ part, change }} />
      ) : (
        <AerofoilFile change={change} />
      )}
      {section.shape === "four_digit" && <Camber form={form} section={section} />}
      {section.shape === "folded" && <FoldedFields {...{ section, catalogue, change }} at={form.at} />}
    </>
  );
}

type FourDigit = Extract<Part["section"], { shape: "four_digit" }>;

function Camber({ form, section }: { form: Form<Part>; section: FourDigit }) {
  const own = formOf(
    section,
    (edit) => form.set("section", edit(section)),
    (key) => form.at(`section.${key}`),
  );
  return (
    <>
      <NumberField label="Camber" quantity="percent" step={0.5} {...own.field("camber_percent")} />
      <NumberField
        label="Camber position"
        quantity="percent"
        step={5}
        {...own.field("camber_position_percent")}
      />
    </>
  );
}
