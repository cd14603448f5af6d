import type { Airframe, Problem, Schemas } from "../../api/client";
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
  { value: "dry", label: "kept dry" },
  { value: "damp", label: "damp air, dew" },
  { value: "wet", label: "rain, wet grass" },
];

const share = (b: { typ: number; low: number; high: number }) =>
  `${plain(100 * b.typ, 2)} % (${plain(100 * b.low, 2)}–${plain(100 * b.high, 2)})`;

/** Sun, warmth, cold and damp: kept once, they bear on the materials of every part. */
export function SettingFields({ document, problems, whole, edit }: Props) {
  const { setting } = document;
  const set = (key: keyof Airframe["setting"]) => (value: unknown) =>
    edit((d) => ({ ...d, setting: { ...d.setting, [key]: value } }));
  const at = (key: string) => problemAt(problems, `setting.${key}`);
  return (
    <section aria-label="Setting" className="mt-6">
      <h2 className="border-b border-ink pb-1 font-semibold">
        Its <Word k="setting">setting</Word>
      </h2>
      <div className="mt-3 grid grid-cols-2 items-start gap-x-4 gap-y-3">
        <NumberField
          label="Months in the sun"
          value={setting.sun_months}
          quantity="plain"
          problem={at("sun_months")}
          onChange={set("sun_months")}
        />
        <Choice label="Damp" value={setting.damp} options={DAMP} onChange={set("damp")} />
        <NumberField
          label="Hottest day it flies"
          value={setting.hottest_C}
          quantity="warmth"
          problem={at("hottest_C")}
          onChange={set("hottest_C")}
        />
        <NumberField
          label="Coldest day it flies"
          value={setting.coldest_C}
          quantity="warmth"
          problem={at("coldest_C")}
          onChange={set("coldest_C")}
        />
        <NumberField
          label="Hottest where it lies"
          value={setting.parked_C}
          quantity="warmth"
          step={5}
          problem={at("parked_C")}
          hint="a parked car in the sun: 50 to 70 °C"
          onChange={set("parked_C")}
        />
      </div>
      {whole && whole.weathered.length > 0 && (
        <table className="mt-3 w-full text-small">
          <caption className="label-type pb-1 text-left">What that leaves of the materials</caption>
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
        <p className="mt-3 text-body text-soft">In this setting the materials are as the tables have them.</p>
      )}
      {whole?.warnings.map((w) => (
        <p key={w} className="mt-2 border-l-[3px] border-fail pl-3 text-small leading-snug">
          {w}
        </p>
      ))}
    </section>
  );
}
