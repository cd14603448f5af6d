import type { Catalogue, Part } from "../../../api/client";
import { Choice, NumberField } from "../../../forms/fields";
import type { Form } from "../../../forms/form";
import { plain } from "../../../forms/units";

/** What fills the part: foam, or ribs and formers of a hollow one. */
export function CoreFields({ form, catalogue }: { form: Form<Part>; catalogue: Catalogue }) {
  const part = form.value;
  const foam = catalogue.foams.find((f) => f.key === part.foam);
  const kind = foam?.brittle ? "snaps" : "yields";
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Core"
          value={part.foam ?? ""}
          options={[
            { value: "", label: "Hollow (walls and spars)" },
            ...catalogue.foams.map((f) => ({ value: f.key, label: f.name })),
          ]}
          problem={form.at("foam")}
          hint={
            foam &&
            `E ${plain(foam.E_tension_MPa.low)}–${plain(foam.E_tension_MPa.high)} MPa pulled, ${kind}; estimate, data quality ${foam.grade}`
          }
          onChange={(v) => form.set("foam", v || null)}
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
              problem={form.at("rib_sheet")}
              onChange={(v) => form.set("rib_sheet", v || null)}
            />
          </div>
          <NumberField label="Rib spacing" quantity="length" step={10} {...form.field("rib_spacing_mm")} />
          {part.rib_sheet && (
            <NumberField
              label="Cut away inside"
              quantity="percent"
              step={5}
              {...form.field("rib_open_percent")}
            />
          )}
        </>
      )}
    </>
  );
}
