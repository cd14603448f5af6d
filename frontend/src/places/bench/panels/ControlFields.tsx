import type { Part } from "../../../api/client";
import { NumberField, OptionalNumber, Tick } from "../../../forms/fields";
import { formOf, type Form } from "../../../forms/form";

/** The control surface on the rear edge, and the slope of the lift. */
export function ControlFields({ form }: { form: Form<Part> }) {
  const part = form.value;
  const start = () => ({
    start_mm: Math.round(0.5 * part.span_mm),
    end_mm: Math.round(0.95 * part.span_mm),
    chord_percent: 25,
  });
  return (
    <div className="col-span-full grid grid-cols-2 items-start gap-x-4 gap-y-3">
      <div className="col-span-full">
        <Tick
          label="A control surface hangs on its rear edge"
          checked={part.control != null}
          onChange={(on) => form.set("control", on ? start() : null)}
        />
      </div>
      {part.control && <Surface form={form} control={part.control} />}
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

function Surface({ form, control }: { form: Form<Part>; control: NonNullable<Part["control"]> }) {
  const own = formOf(
    control,
    (edit) => form.set("control", edit(control)),
    (key) => form.at(`control.${key}`),
  );
  return (
    <>
      <NumberField label="Surface from" quantity="length" step={5} {...own.field("start_mm")} />
      <NumberField label="Surface to" quantity="length" step={5} {...own.field("end_mm")} />
      <NumberField label="Share of the chord" quantity="percent" {...own.field("chord_percent")} />
    </>
  );
}
