import type { Schemas } from "../../api/client";
import { plain } from "../../forms/units";
import { minutesText } from "../../forms/times";
import { Scrolling } from "../../words/Scrolling";

/** A repair in the table; `remove` takes a kept one out. */
export interface Row {
  key: string;
  label: string;
  option: Schemas["MendOption"];
  remove?: () => void;
}

interface ComparedProps {
  rows: Row[];
  chosen: string;
  choose: (key: string) => void;
  rate: number;
  answer: Schemas["Mending"] | null;
}

/** Repairs beside each other, and building anew. */
export function Compared({ rows, chosen, choose, rate, answer }: ComparedProps) {
  const sum = (cost: number, minutes: number) => plain(cost + (minutes / 60) * rate, 3);
  const anew = answer?.rebuild;
  return (
    <Scrolling label="Repairs">
      <table className="mt-3 w-full text-body">
        <caption className="sr-only">Repairs compared</caption>
        <thead className="label-type text-note text-soft">
          <tr className="border-b border-ink align-bottom">
            {[
              "repair",
              "strength",
              "joint alone",
              "strength at launch",
              "stiffness",
              "added mass, g",
              "hands-on",
              "ready to fly after",
              "finish, out of 5",
              "skill, out of 5",
              "cost and time",
            ].map((h, n) => (
              <th key={h} scope="col" className={`py-1 ${n === 0 ? "text-left" : "pl-4 text-right"}`}>
                {h}
              </th>
            ))}
            <th scope="col">
              <span className="sr-only">remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ key, label, option: o, remove }) => (
            <tr
              key={key}
              aria-selected={key === chosen}
              className={`border-b border-rule align-top ${key === chosen ? "bg-pick-wash" : ""}`}
            >
              <th scope="row" className="max-w-80 py-1.5 pl-2 text-left font-normal">
                <button
                  type="button"
                  className="text-left hover:underline"
                  aria-pressed={key === chosen}
                  onClick={() => choose(key)}
                >
                  <strong>{label}</strong>
                  <span className="block text-small leading-snug text-soft max-lg:hidden">{o.says}</span>
                </button>
              </th>
              <Percent value={o.strength_percent} />
              {o.seam_percent ? (
                <Percent value={o.seam_percent} />
              ) : (
                <td className="py-1.5 pl-4 text-right">–</td>
              )}
              <Percent value={o.launch_percent} none={o.launch_percent.typ < 0.5} />
              <Percent value={o.bend_percent} />
              <td className="figure-type py-1.5 pl-4 text-right whitespace-nowrap">
                {gramsText(o.more_g.typ)}
              </td>
              <td className="figure-type py-1.5 pl-4 text-right whitespace-nowrap">
                {minutesText(o.minutes.typ)}
              </td>
              <td className="py-1.5 pl-4 text-right whitespace-nowrap">
                <span className="figure-type">{minutesText(o.fly_min.typ)}</span>
                {o.loaded_min > 1.2 * o.fly_min.typ && (
                  <span className="block text-note text-soft">all in {minutesText(o.loaded_min)}</span>
                )}
              </td>
              <td className="figure-type py-1.5 pl-4 text-right">{o.looks}</td>
              <td className="figure-type py-1.5 pl-4 text-right">{o.skill}</td>
              <td className="py-1.5 pl-4 text-right">
                <span className="figure-type">{sum(o.cost.typ + o.packs, o.minutes.typ)}</span>
                {anew && (
                  <span className="block text-note whitespace-nowrap text-soft">
                    {o.cost.typ + o.packs + (o.minutes.typ / 60) * rate <=
                    anew.cost.typ + anew.hours.typ * rate
                      ? "✓ cheaper than new"
                      : "✕ dearer than new"}
                  </span>
                )}
              </td>
              <td className="py-1 pl-2">
                {remove && (
                  <button type="button" className="key-button text-fail" onClick={remove}>
                    ×<span className="sr-only"> remove {label}</span>
                  </button>
                )}
              </td>
            </tr>
          ))}
          {anew && (
            <tr className="border-b border-rule">
              <th scope="row" className="py-1.5 pl-2 text-left font-normal">
                <strong>New part</strong>
              </th>
              <td colSpan={4} className="py-1.5 pl-4 text-right text-soft">
                as now
              </td>
              <td className="figure-type py-1.5 pl-4 text-right">0</td>
              <td className="figure-type py-1.5 pl-4 text-right whitespace-nowrap">
                {minutesText(60 * anew.hours.typ)}
              </td>
              <td className="figure-type py-1.5 pl-4 text-right whitespace-nowrap">
                {minutesText(60 * anew.ready_h.typ)}
              </td>
              <td colSpan={2} />
              <td className="figure-type py-1.5 pl-4 text-right">
                {sum(anew.cost.typ, 60 * anew.hours.typ)}
              </td>
              <td />
            </tr>
          )}
        </tbody>
      </table>
      <p className="pt-1 text-small text-soft">
        Strength, joint and stiffness in per cent of the undamaged part. “Joint alone” is the load at which
        the weakest new joint fails, whatever is beside it. “Ready to fly” counts from the start to the end of
        the check, by the slow end of what has to set. Cost: shares of what is in your field box, whole packs
        of what is not, and hours at the worth that you set.
        {answer && answer.beaten > 0 && ` ${answer.beaten} more computed, each beaten in every respect.`}
      </p>
    </Scrolling>
  );
}

/** Grams more or less; what no kitchen scale shows is nothing. */
function gramsText(grams: number): string {
  if (Math.abs(grams) < 0.05) return "0";
  return `${grams > 0 ? "+" : ""}${plain(grams, 2)}`;
}

function Percent({ value, none = false }: { value: Schemas["Band"]; none?: boolean }) {
  return (
    <td className="py-1.5 pl-4 text-right whitespace-nowrap">
      {none ? (
        <span className="text-fail">✕ not yet</span>
      ) : (
        <>
          <span className="figure-type">{plain(value.typ, 3)} %</span>
          <span className="block text-note text-soft">
            {plain(value.low, 2)} – {plain(value.high, 3)}
          </span>
        </>
      )}
    </td>
  );
}
