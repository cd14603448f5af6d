import { useState } from "react";
import { show } from "../../forms/units";
import { CautionLines } from "../../words/Cautions";
import { SettingCards } from "./SettingCards";
import {
  byDay,
  cautionsOnce,
  clock,
  dayAndClock,
  minutesBetween,
  type Operation,
  type Plan,
  type Planned,
} from "./shop";
import { StepChange } from "./StepChange";
import type { Bench, Change } from "./useWork";

interface Props {
  plan: Plan;
  change: (one: Change) => Promise<string | null>;
  press: Bench["press"];
}

/** Every step in the order of work, day by day: when, what, on which piece, what is checked before, what sets after.
 * What is done is folded away. */
export function Steps({ plan, change, press }: Props) {
  const cautions = cautionsOnce(plan);
  const done = plan.planned.filter((p) => p.state === "done").length;
  const days = byDay(plan);
  const rows = (open: boolean) =>
    days
      .map(({ day, steps }) => ({ day, steps: steps.filter((s) => (s.p.state !== "done") === open) }))
      .filter(({ steps }) => steps.length > 0)
      .map(({ day, steps }) => (
        <section key={day} aria-label={day} className="mt-6">
          <h2 className="border-b border-ink pb-1 font-semibold">{day}</h2>
          <ol>
            {steps.map(({ o, p }) => (
              <Row key={p.key} {...{ o, p, plan, change, press }} cautions={cautions.get(o.key) ?? []} />
            ))}
          </ol>
        </section>
      ));
  return (
    <section aria-label="Steps">
      {done > 0 && (
        <details className="mt-6">
          <summary className="cursor-pointer border-b border-ink pb-1 font-semibold">
            Done: {done} of {plan.planned.length} steps
          </summary>
          {rows(false)}
        </details>
      )}
      {rows(true)}
    </section>
  );
}

interface RowProps extends Props {
  o: Operation;
  p: Planned;
  cautions: Operation["cautions"];
}

function Row({ o, p, plan, change, press, cautions }: RowProps) {
  const [open, setOpen] = useState(false);
  const title = o.title[0]!.toUpperCase() + o.title.slice(1);
  const name = o.piece ? `${title}, ${o.piece}` : title;
  return (
    <li
      id={`step-${p.key}`}
      className="grid grid-cols-[4rem_4.5rem_minmax(0,1fr)_auto] gap-x-3 border-b border-rule py-2 text-body"
    >
      <time dateTime={p.begins} className="figure-type font-semibold">
        {clock(p.begins)}
      </time>
      <span className="figure-type text-soft">{minutesBetween(p.begins, p.ends)} min</span>
      <div className="leading-snug">
        {p.state === "done" && <span aria-hidden="true">✓ </span>}
        <span className="font-semibold">{title}</span>
        {o.piece && <span className="text-soft"> · {o.piece}</span>}
        {o.people > 1 && <span className="text-soft"> · {o.people} people</span>}
        {p.state === "running" && <span className="text-pick"> · under way</span>}
        {o.how && <span className="block max-w-prose text-small">{o.how}</span>}
        {o.never?.map((text) => (
          <span key={text} className="block text-small text-fail">
            ✕ Do not: {text}
          </span>
        ))}
        {o.tools.length > 0 && (
          <span className="block text-small text-soft">Tools: {o.tools.join(", ").replaceAll("_", " ")}</span>
        )}
        {o.gates.length > 0 && (
          <ul className="text-small" aria-label={`Check before: ${o.title}`}>
            {o.gates.map((g) => (
              <Gate key={g.key} says={g.says} at={p.gates?.find((at) => at.key === g.key)} />
            ))}
          </ul>
        )}
        <SettingCards cards={o.cards} />
        {p.sets && (
          <span className="block text-small text-soft">
            {o.box_C != null && `Into the warm box at once, ${show(o.box_C, "warmth", 2)}. `}
            {o.glue[0]!.toUpperCase() + o.glue.slice(1)} holds itself {dayAndClock(p.sets)}; leave it until
            then.
          </span>
        )}
        {p.notes?.map((n) => (
          <span key={n} className="block text-small">
            {n}
          </span>
        ))}
        <CautionLines cautions={cautions} />
        {open && <StepChange o={o} plan={plan} change={change} close={() => setOpen(false)} />}
      </div>
      <span className="flex items-start gap-1 print:hidden">
        {p.state === "done" ? (
          <button
            type="button"
            className="key-button"
            aria-label={`Not done: ${name}`}
            onClick={() => press({ ...NOTHING, what: "undone", key: o.key })}
          >
            Not done
          </button>
        ) : (
          <>
            <button
              type="button"
              className="key-button"
              aria-label={`Done: ${name}`}
              disabled={p.gates?.some((g) => g.stands === "failed")}
              onClick={() =>
                press({ ...NOTHING, what: "done", key: o.key, made_of: o.made_of, box_C: o.box_C ?? null })
              }
            >
              Done
            </button>
            <button
              type="button"
              className="key-button"
              aria-label={`Change: ${name}`}
              aria-expanded={open}
              onClick={() => setOpen(!open)}
            >
              …
            </button>
          </>
        )}
      </span>
    </li>
  );
}

const NOTHING = {
  gate: "",
  result: "" as const,
  value: null,
  note: "",
  knows: [],
  made_of: "",
  box_C: null,
};

const MARK = { open: "□", passed: "✓", failed: "✕", waived: "–" } as const;

function Gate({ says, at }: { says: string; at: NonNullable<Planned["gates"]>[number] | undefined }) {
  const stands = at?.stands ?? "open";
  return (
    <li className={`pl-4 -indent-4 ${stands === "failed" ? "text-fail" : ""}`}>
      {MARK[stands]} {says}
      {stands === "failed" && " Not passed."}
      {stands === "waived" && ` Passed by: ${at?.note}`}
      {at?.value != null && <span className="figure-type"> {at.value}</span>}
    </li>
  );
}
