import type { Airframe, Problem, Schemas } from "../../api/client";
import { formOf } from "../../forms/form";
import { problemAt } from "../../part/edits";
import { Choice, NumberField } from "../../forms/fields";
import { Word } from "../../words/Word";
import { plain } from "../../forms/units";

interface Props {
  document: Airframe;
  problems: Problem[];
  whole: Schemas["Whole"] | undefined;
  edit: (change: (d: Airframe) => Airframe) => void;
}

const DAMP = [
  { value: "dry", label: "Kept dry" },
  { value: "damp", label: "Damp air or dew" },
  { value: "wet", label: "Rain or wet grass" },
] as const;

const share = (b: { typ: number; low: number; high: number }) =>
  `${plain(100 * b.typ, 2)} % (${plain(100 * b.low, 2)}–${plain(100 * b.high, 2)})`;

/** Sun, warmth, cold and damp: kept once, they bear on the materials of every part. */
export function SettingFields({ document, problems, whole, edit }: Props) {
  const { setting } = document;
  const form = formOf(
    setting,
    (change) => edit((d) => ({ ...d, setting: change(d.setting) })),
    (key) => problemAt(problems, `setting.${key}`),
  );
  return (
    <section aria-label="Environment" className="mt-6">
      <h2 className="border-b border-ink pb-1 font-semibold">
        <Word k="setting">Environment</Word>
      </h2>
      <div className="mt-3 grid grid-cols-2 items-start gap-x-4 gap-y-3">
        <NumberField label="Sun exposure, months" quantity="plain" {...form.field("sun_months")} />
        <Choice label="Moisture" options={DAMP} {...form.field("damp")} />
        <NumberField label="Hottest flying day" quantity="warmth" {...form.field("hottest_C")} />
        <NumberField label="Coldest flying day" quantity="warmth" {...form.field("coldest_C")} />
        <NumberField
          label="Hottest storage temperature"
          quantity="warmth"
          step={5}
          hint="parked car in the sun: 50–70 °C"
          {...form.field("parked_C")}
        />
      </div>
      {whole && whole.weathered.length > 0 && (
        <table className="mt-3 w-full text-small">
          <caption className="label-type pb-1 text-left">Material values in this environment</caption>
          <thead className="label-type text-left text-note text-soft">
            <tr className="border-b border-ink">
              <th scope="col">Material</th>
              <th scope="col" className="pl-2 text-right">
                stiffness
              </th>
              <th scope="col" className="pl-2 text-right">
                strength
              </th>
            </tr>
          </thead>
          <tbody>
            {whole.weathered.map((w) => (
              <tr key={w.material} className="border-b border-rule align-top">
                <th scope="row" className="py-1 text-left font-normal">
                  {w.material}
                </th>
                <td className="py-1 pl-2 text-right whitespace-nowrap">{share(w.stiffness)}</td>
                <td className="py-1 pl-2 text-right whitespace-nowrap">{share(w.strength)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {whole?.weathered.length === 0 && (
        <p className="mt-3 text-body text-soft">This environment does not change any material value.</p>
      )}
      {whole?.warnings.map((w) => (
        <p key={w} className="mt-2 border-l-[3px] border-fail pl-3 text-small leading-snug">
          {w}
        </p>
      ))}
    </section>
  );
}
