import { CautionLines } from "../../words/Cautions";
import { SettingCards } from "./SettingCards";
import { byDay, cautionsOnce, clock, dayAndClock, minutesBetween, type Plan } from "./shop";

/** Every step in the order of work, day by day: when, what, on which piece, what is checked before, what sets after. */
export function Steps({ plan }: { plan: Plan }) {
  const cautions = cautionsOnce(plan);
  return (
    <section aria-label="Steps">
      {byDay(plan).map(({ day, steps }) => (
        <section key={day} aria-label={day} className="mt-6">
          <h2 className="border-b border-ink pb-1 font-semibold">{day}</h2>
          <ol>
            {steps.map(({ o, p }) => (
              <li
                key={p.key}
                className="grid grid-cols-[4rem_4.5rem_minmax(0,1fr)] gap-x-3 border-b border-rule py-2 text-body"
              >
                <time dateTime={p.begins} className="figure-type font-semibold">
                  {clock(p.begins)}
                </time>
                <span className="figure-type text-soft">{minutesBetween(p.begins, p.ends)} min</span>
                <div className="leading-snug">
                  <span className="font-semibold">{o.title[0]!.toUpperCase() + o.title.slice(1)}</span>
                  {o.piece && <span className="text-soft"> · {o.piece}</span>}
                  {o.people > 1 && <span className="text-soft"> · {o.people} people</span>}
                  {o.tools.length > 0 && (
                    <span className="block text-small text-soft">
                      Tools: {o.tools.join(", ").replaceAll("_", " ")}
                    </span>
                  )}
                  {o.gates.length > 0 && (
                    <ul className="text-small" aria-label={`Check before: ${o.title}`}>
                      {o.gates.map((g) => (
                        <li key={g.key} className="pl-4 -indent-4">
                          □ {g.says}
                        </li>
                      ))}
                    </ul>
                  )}
                  <SettingCards cards={o.cards} />
                  {p.sets && (
                    <span className="block text-small text-soft">
                      {o.glue[0]!.toUpperCase() + o.glue.slice(1)} holds itself {dayAndClock(p.sets)}; leave
                      it until then.
                    </span>
                  )}
                  <CautionLines cautions={cautions.get(o.key) ?? []} />
                </div>
              </li>
            ))}
          </ol>
        </section>
      ))}
    </section>
  );
}
