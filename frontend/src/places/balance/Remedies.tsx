import type { Airframe, Schemas } from "../../api/client";
import { show } from "../../forms/units";
import { freshId } from "../../forms/ids";

interface Props {
  sheet: Schemas["BalanceSheet"];
  edit: (change: (d: Airframe) => Airframe) => void;
}

type Remedy = Schemas["RemedyAt"];

/** A remedy taken into the document. */
export function withRemedy(d: Airframe, r: Remedy): Airframe {
  const items = d.equipment ?? [];
  if (r.kind === "move")
    return {
      ...d,
      equipment: items.map((e) => (e.id === r.item_id ? { ...e, x_mm: r.to_mm ?? e.x_mm } : e)),
    };
  if (r.kind === "swap")
    return {
      ...d,
      equipment: items.map((e) => (e.id === r.item_id ? { ...e, stock: r.stock, mass_g: null } : e)),
    };
  if (r.kind !== "ballast" || r.to_mm == null) return d;
  const id = freshId(
    "ballast",
    items.map((e) => e.id),
  );
  const ballast = { id, what: "ballast" as const, name: "Ballast", mass_g: r.grams, x_mm: r.to_mm };
  return { ...d, equipment: [...items, ballast as (typeof items)[number]] };
}

/** What to do, in order, and every other way by itself. */
export function Remedies({ sheet, edit }: Props) {
  const others = sheet.ways.filter((w) => !sheet.plan.some((p) => p.says === w.says));
  if (sheet.plan.length === 0 && sheet.bay === null) return null;
  return (
    <section aria-label="What to do" className="mt-6">
      <h2 className="border-b border-ink pb-1 font-semibold">What to do</h2>
      {sheet.plan.length > 0 && (
        <ol>
          {sheet.plan.map((r, i) => (
            <Row key={r.says} remedy={r} number={i + 1} take={() => edit((d) => withRemedy(d, r))} />
          ))}
        </ol>
      )}
      {others.length > 0 && (
        <details>
          <summary className="label-type min-h-10 cursor-pointer py-2 text-body">Other ways</summary>
          <ul>
            {others.map((r) => (
              <Row key={r.says} remedy={r} take={() => edit((d) => withRemedy(d, r))} />
            ))}
          </ul>
        </details>
      )}
      {[...sheet.plan, ...others].some((r) => r.kind === "ballast") && (
        <p className="border-l-[3px] border-fail pl-3 text-small leading-snug">
          Lead is poisonous: wear gloves, do not sand or file it, wash your hands afterwards.
        </p>
      )}
      {sheet.bay && <p className="pt-2 text-body leading-snug">{sheet.bay.says}</p>}
    </section>
  );
}

function Row({ remedy: r, number, take }: { remedy: Remedy; number?: number; take: () => void }) {
  return (
    <li className="grid grid-cols-[1.6rem_minmax(0,1fr)_auto] items-center gap-x-2 border-b border-rule py-1.5 text-body">
      <span className="figure-type">{number}</span>
      <span className="leading-snug">
        {r.says[0]!.toUpperCase() + r.says.slice(1)}
        <span className="block text-small text-soft">
          then balances at {show(r.centre_mm, "length", 4)}
          {!r.reaches && ", not enough alone"}
          {Math.abs(r.grams) > 0.05 && `, ${r.grams > 0 ? "+" : "−"}${show(Math.abs(r.grams), "mass", 2)}`}
        </span>
      </span>
      {r.kind !== "rebuild" && (
        <button type="button" className="key-button" onClick={take} aria-label={`Apply: ${r.says}`}>
          Apply
        </button>
      )}
    </li>
  );
}
