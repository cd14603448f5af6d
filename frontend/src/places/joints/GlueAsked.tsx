import type { AirframeOut, Catalogue, Schemas } from "../../api/client";
import { Choice, NumberField, OptionalNumber, Tick } from "../../forms/fields";
import type { Form } from "../../forms/form";
import type { Quantity } from "../../forms/units";
import { Schools } from "./Schools";
import { meetingsIn, sidesOf } from "./sides";

export type Need = Schemas["GlueNeed"];

const LOADED = [
  { value: "shear", label: "Shear (along the joint)" },
  { value: "pull", label: "Tension (straight pull)" },
  { value: "peel", label: "Peel (from one edge)" },
  { value: "bend", label: "Bending across the joint" },
] as const;

const TECHNIQUES = [
  { value: "", label: "Strongest way" },
  { value: "flashed", label: "Flashed off (touch-dry)" },
  { value: "wet", label: "wet" },
  { value: "misted", label: "misted" },
  { value: "accelerated", label: "accelerated" },
  { value: "vented", label: "Vented (pricked faces)" },
] as const;

const GRAMS = [
  { value: "little", label: "little" },
  { value: "usual", label: "Normal" },
  { value: "much", label: "High (tail, wing tip)" },
] as const;

const WATER = [
  { value: "dry", label: "Stays dry" },
  { value: "splash", label: "Dew, wet grass" },
  { value: "wet", label: "Lands on water" },
] as const;

type Figure = { [K in keyof Need]-?: Need[K] extends number ? K : never }[keyof Need];

/** Figures that are asked: field, label, quantity, step, and what helps to give it. */
type Asked = [key: Figure, label: string, quantity: Quantity, step: number, hint?: string];

const BEFORE: Asked[] = [
  ["area_cm2", "Joint area, cm²", "plain", 5],
  ["width_mm", "Joint width", "length", 5],
];
const HOLDS: Asked[] = [
  ["hold_N", "Must hold", "force", 5],
  ["within_min", "Within, min", "plain", 10, "from taking up the tube"],
  ["steady_N", "Of that, stays on", "force", 1, "for weeks: a hung part, a bent spar"],
];
const ARM: Asked = ["arm_mm", "Load distance", "length", 10, "from the joint"];
const USE: Asked[] = [
  ["gap_mm", "Gap", "length", 0.1],
  ["flex_percent", "Flex needed, %", "plain", 1],
  ["workshop_C", "Workshop temperature", "warmth", 1],
  ["heat_C", "Highest temperature in use", "warmth", 5, "in a parked car: 60 °C and more"],
];
const HABIT: Asked = [
  "habit",
  "Your glue use, × table",
  "plain",
  0.1,
  "weigh the tube before and after gluing",
];

interface Props {
  form: Form<Need>;
  catalogue: Catalogue | undefined;
  shelf: AirframeOut[] | undefined;
}

/** What meets what, and what the joint must do. */
export function GlueAsked({ form, catalogue, shelf }: Props) {
  const need = form.value;
  const sides = sidesOf(catalogue);
  const documents = shelf?.map((a) => a.document) ?? [];
  const meetings = catalogue ? meetingsIn(documents, catalogue) : [];
  const figure = ([key, label, quantity, step, hint]: Asked) => (
    <NumberField key={key} {...{ label, quantity, step, hint }} {...form.field(key)} />
  );
  return (
    <section data-asked aria-label="What the joint must do" className="grid content-start gap-3">
      {meetings.length > 0 && (
        <Choice
          label="From my airframes"
          value={meetings.find((m) => m.one === need.one && m.other === need.other)?.value ?? ""}
          options={[{ value: "", label: "choose below" }, ...meetings]}
          onChange={(v) => {
            const met = meetings.find((m) => m.value === v);
            if (met) form.replace((n) => ({ ...n, one: met.one, other: met.other }));
          }}
        />
      )}
      <Choice label="Material" options={sides} {...form.field("one")} />
      <Choice label="Glued to" options={sides} {...form.field("other")} />
      <Choice label="Type of load" options={LOADED} {...form.field("loaded")} />
      <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
        {BEFORE.map(figure)}
        <OptionalNumber
          label="Bead length"
          value={need.bead_mm ?? null}
          quantity="length"
          problem={form.at("bead_mm")}
          hint="instead of an area; as wide as the joint width"
          onChange={(v) => form.set("bead_mm", v)}
        />
        <Choice
          label="Application"
          value={need.technique ?? ""}
          options={TECHNIQUES}
          problem={form.at("technique")}
          onChange={(v) => form.set("technique", v || null)}
        />
        {HOLDS.map(figure)}
        {need.loaded === "bend" && figure(ARM)}
        {USE.map(figure)}
        <Choice label="Importance of mass" options={GRAMS} {...form.field("grams_matter")} />
        {figure(HABIT)}
      </div>
      <Choice label="Water exposure" options={WATER} {...form.field("water")} />
      <div>
        <Tick label="Joint is visible" checked={need.seen} onChange={(on) => form.set("seen", on)} />
        <Tick label="Joint will be sanded" checked={need.sanded} onChange={(on) => form.set("sanded", on)} />
      </div>
      <Schools chosen={need.schools} set={(schools) => form.set("schools", schools)} />
    </section>
  );
}
