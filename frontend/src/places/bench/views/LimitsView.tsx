import { api, type Schemas } from "../../../api/client";
import { Word } from "../../../words/Word";
import { bare, plain, show, type Quantity } from "../../../forms/units";
import { useStudy, type Subject } from "../../../part/useStudy";
import { ofWords, Table } from "../../../words/Table";
import { Scrolling } from "../../../words/Scrolling";

type Limit = Schemas["Limit"];

const KINDS: Record<string, Quantity> = {
  g: "mass",
  "m/s": "speed",
  N: "force",
  "N·mm": "couple",
  "°": "angle",
};

function figure(value: number, unit: string): string {
  const kind = KINDS[unit];
  return kind ? show(value, kind) : `${plain(value)} ${unit}`.trim();
}

function spread(limit: Limit): string {
  if (!limit.most) return "";
  const kind = KINDS[limit.unit] ?? "plain";
  return `${bare(limit.most.low, kind, 2)} – ${bare(limit.most.high, kind, 2)}`;
}

/** How far each load may go before the part stops being enough, and what becomes necessary when. */
export function LimitsView({ subject }: { subject: Subject }) {
  const study = useStudy("reach", subject, (body, signal) =>
    api.POST("/api/studies/reach", { body, signal }),
  );
  if (study.isError)
    return <p className="p-6 text-fail">Headroom could not be computed. Correct the marked fields.</p>;
  if (!study.data) return <p className="p-6 text-soft">Computing headroom…</p>;
  const { limits, needs } = study.data;
  return (
    <section className="px-5 py-3" aria-label="Headroom of this lay-up">
      <h2 className="text-lead font-semibold">How far can it go?</h2>
      <p className="max-w-prose text-body leading-snug text-soft">
        Each row raises one figure and keeps the rest, with the safety factor included. Heavier means flown
        the same way, with speeds rising with the stall speed.
      </p>
      <div className={`overflow-x-auto ${study.isFetching ? "stale" : ""}`}>
        <Table
          caption="Headroom of this lay-up"
          heads={["Raise this", "now", "Enough up to", <Word k="band">range</Word>, ofWords("Then fails")]}
          className="mt-2"
        >
          {limits.map((l) => (
            <tr key={l.name} className="border-b border-rule align-top">
              <th scope="row" className="py-2 pr-2 text-left font-semibold">
                {l.name}
              </th>
              <td className="figure-type pl-3 py-2 text-right whitespace-nowrap">{figure(l.now, l.unit)}</td>
              <td
                className={`figure-type pl-3 py-2 text-right whitespace-nowrap ${l.most && l.most.typ < l.now ? "text-fail" : ""}`}
              >
                {l.most ? `${l.most.typ < l.now ? "✕ " : ""}${figure(l.most.typ, l.unit)}` : "more than 8 ×"}
              </td>
              <td className="pl-3 py-2 text-right whitespace-nowrap text-soft">{spread(l)}</td>
              <td className="py-2 pl-3 leading-snug">
                {l.gives ? l.gives : "nothing fails up to 8 × today’s value"}
                {l.in_case && l.in_case !== l.name.split(":")[0] && (
                  <span className="block text-soft">in “{l.in_case}”</span>
                )}
              </td>
            </tr>
          ))}
        </Table>
      </div>
      <p className="mt-2 border-l-[3px] border-fail pl-3 text-small leading-snug">
        These masses and speeds are cautions, not clearances: flutter is not computed. Load-test the finished
        part on the bench before it flies, and follow local rules.
      </p>
      <h2 className="mt-6 text-lead font-semibold">What to add as loads grow</h2>
      <p className="max-w-prose text-body leading-snug text-soft">
        Multiples of today’s loads, safety factors included. The right-hand columns show the effect of adding
        it now, with <Word k="typical">typical values</Word>.
      </p>
      <Scrolling label="Headroom table">
        <Table
          caption="Load at which each addition is needed"
          heads={["Addition", "from", ofWords("because"), "adds", <Word k="margin">margin</Word>]}
          className="mt-2"
        >
          {needs.map((n) => (
            <tr key={n.what} className="border-b border-rule align-top">
              <th scope="row" className="py-2 pr-2 text-left font-semibold">
                {n.what}
              </th>
              <td
                className={`figure-type pl-3 py-2 text-right whitespace-nowrap ${n.from_load != null && n.from_load < 1 ? "text-fail" : ""}`}
              >
                {n.from_load == null
                  ? "far above"
                  : n.from_load < 1
                    ? `✕ ${plain(n.from_load, 2)} ×: now`
                    : `${plain(n.from_load, 2)} ×`}
              </td>
              <td className="pl-3 py-2 leading-snug">
                {n.why}
                {n.in_case && n.from_load != null && (
                  <span className="block text-soft">first in “{n.in_case}”</span>
                )}
              </td>
              <td className="figure-type pl-3 py-2 text-right whitespace-nowrap">
                {n.grams == null ? "–" : `+${show(n.grams, "mass", 2)}`}
              </td>
              <td className="figure-type py-2 pl-3 text-right whitespace-nowrap">
                {n.margin_then == null ? "does not fit" : `${plain(n.margin_now)} → ${plain(n.margin_then)}`}
                {n.divergence_ratio != null && Math.abs(n.divergence_ratio - 1) > 0.02 && (
                  <span className="block text-note font-normal text-soft">
                    <Word k="divergence">divergence</Word> × {plain(n.divergence_ratio, 3)}
                  </span>
                )}
              </td>
            </tr>
          ))}
        </Table>
      </Scrolling>
    </section>
  );
}
