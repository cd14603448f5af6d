import { useState } from "react";
import type { Airframe, Problem, Schemas } from "../../../api/client";
import { useWriteLog } from "../../../api/changes";
import { freshId } from "../../../forms/ids";
import { plain, show } from "../../../forms/units";
import { useTyped } from "../../../forms/useTyped";
import { problemAt } from "../../../part/edits";
import { linesOn, netOf, piecesOf, type Weighing } from "./onScale";
import { PlanBar } from "./PlanBar";
import { WeighingFields } from "./WeighingFields";

interface Props {
  airframeId: string;
  document: Airframe;
  sheet: Schemas["BalanceSheet"];
  problems: Problem[];
  edit: (change: (d: Airframe) => Airframe) => void;
}

const SIGNS: Record<Schemas["WeighingAt"]["state"], string> = {
  counts: "✓",
  heavy: "▲",
  light: "▼",
  surprise: "?",
  replaced: "–",
  gone: "–",
};

/** Weighing in: what was weighed, what it says of the plan and of the rest, and what to weigh next. */
export function WeighIn({ airframeId, document, sheet, problems, edit }: Props) {
  const weighings = document.weighings ?? [];
  const told = new Map(sheet.weighed.weighings.map((w) => [w.id, w]));
  const [open, setOpen] = useState<string | null>(null);
  const change = (id: string, next: Weighing) =>
    edit((d) => ({ ...d, weighings: (d.weighings ?? []).map((w) => (w.id === id ? next : w)) }));
  const [{ draft }, write] = useTyped<{ draft: Weighing | null }>(`fletcher.weighing.${airframeId}`, NONE);
  const logged = useWriteLog(airframeId);
  const keep = (w: Weighing) => {
    const id = freshId(
      "weighing",
      weighings.map((o) => o.id),
    );
    edit((d) => ({ ...d, weighings: [...(d.weighings ?? []), { ...w, id }] }));
    logged.mutate({ event: eventOf(w, sheet.weighed.pieces) });
    write(() => NONE);
  };
  const s = sheet.weighed;
  return (
    <section aria-label="Weighing" className="mt-6">
      <h2 className="border-b border-ink pb-1 font-semibold">Weighing</h2>
      <p className="pt-2 text-body leading-snug">{s.says}</p>
      {s.weighed_g > 0 && <PlanBar sheet={sheet} />}
      {s.next && <p className="pt-1 text-body leading-snug">{s.next.says}</p>}
      <ul className="mt-2 border-t border-rule">
        {weighings.map((w, i) => (
          <Row
            key={w.id}
            weighing={w}
            told={told.get(w.id)}
            sheet={sheet}
            open={open === w.id}
            toggle={() => setOpen(open === w.id ? null : w.id)}
            at={(key) => problemAt(problems, `weighings[${i}].${key}`)}
            change={(next) => change(w.id, next)}
            remove={() =>
              edit((d) => ({ ...d, weighings: (d.weighings ?? []).filter((o) => o.id !== w.id) }))
            }
          />
        ))}
      </ul>
      {draft ? (
        <form
          aria-label="New weighing"
          className="pt-3"
          onSubmit={(e) => {
            e.preventDefault();
            keep(draft);
          }}
        >
          <WeighingFields
            weighing={draft}
            sheet={sheet}
            at={() => undefined}
            change={(next) => write(() => ({ draft: next }))}
          />
          <p className="flex gap-2 pt-3">
            <button
              type="submit"
              className="key-main"
              disabled={netOf(draft) <= 0 || draft.lines.length === 0}
            >
              Keep weighing
            </button>
            <button type="button" className="key-button" onClick={() => write(() => NONE)}>
              Cancel
            </button>
          </p>
        </form>
      ) : (
        <button
          type="button"
          className="key-button mt-3"
          onClick={() => write(() => ({ draft: fresh(sheet, weighings.at(-1)) }))}
          disabled={s.pieces.length === 0}
        >
          + Weighing
        </button>
      )}
      <Lessons sheet={s} />
    </section>
  );
}

const NONE = { draft: null };

/** A weighing as the Log tells it; it stays there when a later one replaces it. */
function eventOf(w: Weighing, all: Schemas["PieceAt"][]): Schemas["Event"] {
  const pieces = piecesOf(all, w.lines);
  const names = pieces.length === all.length ? ["the whole airframe"] : pieces.map((p) => p.name);
  const part =
    pieces.length === 1 && !pieces[0]!.key.startsWith("item/") ? pieces[0]!.key.split("/")[0] : null;
  const says = `${names.join(" + ")}, ${w.stage}: ${show(netOf(w), "mass", 4)}`;
  return {
    kind: "weighing",
    part_id: part,
    says: says.slice(0, 600),
    marks: [],
    stretches_mm: [],
  };
}

/** A new weighing of what is to be weighed next; nothing is read yet. */
function fresh(sheet: Schemas["BalanceSheet"], last: Weighing | undefined): Weighing {
  const { next, pieces } = sheet.weighed;
  const piece = pieces.find((p) => p.key === next?.piece) ?? pieces[0]!;
  const stage = piece.stages.at(-1)!.stage;
  return {
    id: "draft",
    on: new Date().toISOString().slice(0, 10),
    stage,
    lines: linesOn([piece], pieces, stage),
    reading: { kind: "scale", grams: 0 },
    step_g: last?.step_g ?? 1,
    taken_off: "",
    trusted: false,
    note: "",
  };
}

interface RowProps {
  weighing: Weighing;
  told: Schemas["WeighingAt"] | undefined;
  sheet: Schemas["BalanceSheet"];
  open: boolean;
  toggle: () => void;
  at: (key: string) => Problem | undefined;
  change: (w: Weighing) => void;
  remove: () => void;
}

const FIELDS = [
  "stage",
  "lines",
  "step_g",
  "reading.grams",
  "reading.first_g",
  "reading.second_g",
  "reading.second_mm",
];

function Row({ weighing: w, told, sheet, open, toggle, at, change, remove }: RowProps) {
  const wrong = FIELDS.map(at).find((p) => p);
  const pending = sheet.lines.filter((l) => w.lines.includes(l.key));
  const name = told?.name ?? pending[0]?.name ?? "weighing";
  return (
    <li className="border-b border-rule py-1">
      <button
        type="button"
        aria-expanded={open}
        onClick={toggle}
        className="grid min-h-11 w-full grid-cols-[1.5rem_minmax(0,1fr)_5rem] items-center gap-x-2 text-left hover:bg-pick-wash"
      >
        <span aria-hidden="true" className={told?.state === "surprise" || wrong ? "text-fail" : ""}>
          {wrong ? "✕" : told ? SIGNS[told.state] : ""}
        </span>
        <span className="leading-snug">
          <span className="font-semibold">{name}</span> <span className="text-soft">{w.stage}</span>
        </span>
        <span className="figure-type text-right">{told ? show(told.grams.typ, "mass", 4) : ""}</span>
      </button>
      {wrong && (
        <p className="pl-8 text-small leading-snug text-fail">Not stored yet: the reading {wrong.message}</p>
      )}
      {told && !wrong && <Says told={told} trust={() => change({ ...w, trusted: true })} />}
      {open && (
        <div className="pt-2 pb-4 pl-8 max-sm:pl-0">
          <WeighingFields {...{ weighing: w, sheet, at, change }} />
          <button type="button" className="key-button mt-3 text-fail" onClick={remove}>
            Remove<span className="sr-only"> this weighing</span>
          </button>
        </div>
      )}
    </li>
  );
}

/** What a weighing did, and what to ask where it is a surprise. */
function Says({ told, trust }: { told: Schemas["WeighingAt"]; trust: () => void }) {
  return (
    <div className="pl-8 text-small leading-snug text-soft">
      <p>
        {told.says}
        {told.centre_mm &&
          `; balances at ${show(told.centre_mm.typ, "length", 4)} ± ${plain((told.centre_mm.high - told.centre_mm.low) / 2, 2)}`}
      </p>
      {told.state === "surprise" && (
        <>
          <ul className="text-ink">
            {told.questions.map((q) => (
              <li key={q}>{q}</li>
            ))}
          </ul>
          <button type="button" className="key-button my-1" onClick={trust}>
            It is right
          </button>
        </>
      )}
    </div>
  );
}

/** Left against right, steps weighed before and after, and what they taught. */
function Lessons({ sheet: s }: { sheet: Schemas["WeighedSheet"] }) {
  if (s.sides.length + s.steps.length + s.learned.length === 0) return null;
  return (
    <details className="mt-3 border-b border-rule">
      <summary className="label-type min-h-10 cursor-pointer py-2 text-body">What it taught</summary>
      <ul className="pb-3 text-body leading-snug">
        {s.sides.map((x) => (
          <li key={x.name + x.stage}>
            {x.name}, {x.stage}: {x.says}.
          </li>
        ))}
        {s.steps.map((x) => (
          <li key={x.name}>
            {x.name[0]!.toUpperCase() + x.name.slice(1)}: {x.says}.
          </li>
        ))}
        {s.learned.map((x) => (
          <li key={x.cause}>
            {x.cause[0]!.toUpperCase() + x.cause.slice(1)}: {plain(x.factor.typ, 2)} times the table (
            {plain(x.factor.low, 2)} – {plain(x.factor.high, 2)}).
          </li>
        ))}
      </ul>
    </details>
  );
}
