import type { AirframeOut, Catalogue, Schemas } from "../../api/client";
import { Choice, NumberField, OptionalNumber, Tick } from "../../forms/fields";
import type { Form } from "../../forms/form";
import type { Quantity } from "../../forms/units";
import { Schools } from "./Schools";
import { meetingsIn, sidesOf } from "./sides";

export type Need = Schemas["GlueNeed"];

const LOADED = [
  { value: "shear", label: "Along the face: shear" },
  { value: "pull", label: "Straight off: pull" },
  { value: "peel", label: "From one edge: peel" },
  { value: "bend", label: "Bent across the seam" },
] as const;

const TECHNIQUES = [
  { value: "", label: "as holds best" },
  { value: "flashed", label: "aired to tack" },
  { value: "wet", label: "wet" },
  { value: "misted", label: "misted" },
  { value: "accelerated", label: "accelerated" },
  { value: "vented", label: "vented, pricked" },
] as const;

const GRAMS = [
  { value: "little", label: "little" },
  { value: "usual", label: "as usual" },
  { value: "much", label: "much: tail, tip" },
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
  ["area_cm2", "Face, cm²", "plain", 5],
  ["width_mm", "Its narrower side", "length", 5],
];
const HOLDS: Asked[] = [
  ["hold_N", "Must hold", "force", 5],
  ["within_min", "after, minutes", "plain", 10, "from taking up the tube"],
  ["steady_N", "Of that, stays on", "force", 1, "for weeks: a hung part, a bent spar"],
];
const ARM: Asked = ["arm_mm", "Load acts at", "length", 10, "from the seam"];
const USE: Asked[] = [
  ["gap_mm", "Gap", "length", 0.1],
  ["flex_percent", "Must bend with it, %", "plain", 1],
  ["workshop_C", "Workshop", "warmth", 1],
  ["heat_C", "Warmest in use", "warmth", 5, "a parked car: 60 and more"],
];
const HABIT: Asked = [
  "habit",
  "Glue you use over the table's",
  "plain",
  0.1,
  "weigh the tube before and after",
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
    <section aria-label="What is asked of the joint" className="grid content-start gap-3">
      {meetings.length > 0 && (
        <Choice
          label="From your airframes"
          value={meetings.find((m) => m.one === need.one && m.other === need.other)?.value ?? ""}
          options={[{ value: "", label: "chosen freely" }, ...meetings]}
          onChange={(v) => {
            const met = meetings.find((m) => m.value === v);
            if (met) form.replace((n) => ({ ...n, one: met.one, other: met.other }));
          }}
        />
      )}
      <Choice label="This" options={sides} {...form.field("one")} />
      <Choice label="meets this" options={sides} {...form.field("other")} />
      <Choice label="Loaded" options={LOADED} {...form.field("loaded")} />
      <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
        {BEFORE.map(figure)}
        <OptionalNumber
          label="or a bead, long"
          value={need.bead_mm ?? null}
          quantity="length"
          problem={form.at("bead_mm")}
          hint="as wide as the narrower side"
          onChange={(v) => form.set("bead_mm", v)}
        />
        <Choice
          label="Put together"
          value={need.technique ?? ""}
          options={TECHNIQUES}
          problem={form.at("technique")}
          onChange={(v) => form.set("technique", v || null)}
        />
        {HOLDS.map(figure)}
        {need.loaded === "bend" && figure(ARM)}
        {USE.map(figure)}
        <Choice label="A gram counts" options={GRAMS} {...form.field("grams_matter")} />
        {figure(HABIT)}
      </div>
      <Choice label="Water" options={WATER} {...form.field("water")} />
      <div>
        <Tick label="The seam is seen" checked={need.seen} onChange={(on) => form.set("seen", on)} />
        <Tick label="It is sanded over" checked={need.sanded} onChange={(on) => form.set("sanded", on)} />
      </div>
      <Schools chosen={need.schools} set={(schools) => form.set("schools", schools)} />
    </section>
  );
}
