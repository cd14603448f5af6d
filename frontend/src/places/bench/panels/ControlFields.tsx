import type { Part } from "../../../api/client";
import { NumberField, OptionalNumber, Tick } from "../../../forms/fields";
import { formOf, type Form } from "../../../forms/form";

type Edge = NonNullable<Part["control"]>;
const SURFACES = [
  ["control", "Has a control surface", "Surface"],
  ["second_control", "A second one beside it: a flap", "Flap"],
] as const;

/** Where a new surface hangs: over the outer half, the second over what the first leaves free inside or outside. */
function start(part: Part, key: "control" | "second_control"): Edge {
  const first = key === "second_control" ? part.control : null;
  const share = (v: number) => Math.round(v * part.span_mm);
  if (!first) return { start_mm: share(0.5), end_mm: share(0.95), chord_percent: 25 };
  const inside = first.start_mm >= part.span_mm - first.end_mm;
  return inside
    ? { start_mm: Math.min(share(0.05), first.start_mm / 2), end_mm: first.start_mm, chord_percent: 25 }
    : { start_mm: first.end_mm, end_mm: part.span_mm, chord_percent: 25 };
}

/** The control surfaces on the rear edge, and the slope of the lift. */
export function ControlFields({ form }: { form: Form<Part> }) {
  const part = form.value;
  return (
    <div className="col-span-full grid grid-cols-2 items-start gap-x-4 gap-y-3">
      {SURFACES.map(([key, label, name]) => (
        <div key={key} className="contents">
          {(key === "control" || part.control != null || part.second_control != null) && (
            <div className="col-span-full">
              <Tick
                label={label}
                checked={part[key] != null}
                onChange={(on) => form.set(key, on ? start(part, key) : null)}
              />
            </div>
          )}
          {part[key] && <Surface form={form} at={key} control={part[key]} name={name} />}
        </div>
      ))}
      <div className="col-span-full">
        <OptionalNumber
          label="Lift slope of the wing, per radian"
          value={part.lift_slope ?? null}
          quantity="plain"
          problem={form.at("lift_slope")}
          hint={part.lift_slope == null ? "Open: 2π AR/(AR + 2), by its aspect ratio." : undefined}
          onChange={(v) => form.set("lift_slope", v)}
        />
      </div>
    </div>
  );
}

interface SurfaceProps {
  form: Form<Part>;
  at: "control" | "second_control";
  control: Edge;
  name: string;
}

function Surface({ form, at, control, name }: SurfaceProps) {
  const own = formOf(
    control,
    (edit) => form.set(at, edit(control)),
    (key) => form.at(`${at}.${key}`),
  );
  return (
    <>
      <NumberField label={`${name} from`} quantity="length" step={5} {...own.field("start_mm")} />
      <NumberField label={`${name} to`} quantity="length" step={5} {...own.field("end_mm")} />
      <NumberField label={`${name}, share of the chord`} quantity="percent" {...own.field("chord_percent")} />
    </>
  );
}
