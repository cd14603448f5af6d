import { useState } from "react";
import { Choice, NumberField } from "../../forms/fields";
import { freshId } from "../../forms/ids";
import { titleOf } from "./bench";
import { dayAndClock, type Plan } from "./shop";
import type { Change } from "./useWork";

interface Props {
  plan: Plan;
  changes: Change[];
  /** Puts these in place of all; the reason where that is refused. */
  change: (changes: Change[]) => Promise<string | null>;
  trouble: string | null;
}

/** What you changed of the plan, each to be taken back, and steps of your own. */
export function OwnChanges({ plan, changes, change, trouble }: Props) {
  const names = new Map(plan.operations.map((o) => [o.key, titleOf(o)]));
  const [adding, setAdding] = useState(false);
  return (
    <section aria-label="Your changes" className="mt-6 print:hidden">
      <h2 className="border-b border-ink pb-1 font-semibold">Your changes</h2>
      {changes.length === 0 && <p className="py-1 text-small text-soft">None. “…” at a step changes it.</p>}
      <ul className="text-body">
        {changes.map((c, n) => {
          const says = told(c, names);
          return (
            <li key={n} className="flex items-start justify-between gap-2 border-b border-rule py-1">
              <span className="leading-snug">{says}</span>
              <button
                type="button"
                className="key-button border-transparent text-fail"
                aria-label={`Take back: ${says}`}
                onClick={() => void change(changes.filter((_, m) => m !== n))}
              >
                ×
              </button>
            </li>
          );
        })}
      </ul>
      {trouble && (
        <p role="alert" className="py-1 text-fail">
          {trouble}
        </p>
      )}
      {adding ? (
        <OwnStepForm
          plan={plan}
          taken={changes.map((c) => c.key)}
          add={async (one) => {
            const refused = await change([...changes, one]);
            if (!refused) setAdding(false);
          }}
          close={() => setAdding(false)}
        />
      ) : (
        <button type="button" className="key-button mt-2" onClick={() => setAdding(true)}>
          + Own step
        </button>
      )}
    </section>
  );
}

function told(c: Change, names: Map<string, string>): string {
  const name = names.get(c.key) ?? c.key;
  switch (c.what) {
    case "own":
      return `Own step: ${c.title}, ${c.minutes} min`;
    case "time":
      return `${name}: ${c.minutes} min`;
    case "order":
      return `${name}: only after ${names.get(c.after) ?? c.after}`;
    case "later":
      return `${name}: not before ${dayAndClock(c.at)}`;
    case "split":
      return `${name}: in ${c.parts.length} parts`;
    case "out":
      return `${name}: left out, ${c.why}`;
  }
}

interface FormProps {
  plan: Plan;
  taken: string[];
  add: (one: Change) => Promise<void>;
  close: () => void;
}

function OwnStepForm({ plan, taken, add, close }: FormProps) {
  const [title, setTitle] = useState("");
  const [minutes, setMinutes] = useState(10);
  const [wait, setWait] = useState(0);
  const [after, setAfter] = useState("");
  const [before, setBefore] = useState("");
  const options = [
    { value: "", label: "any" },
    ...plan.operations.map((o) => ({ value: o.key, label: titleOf(o) })),
  ];
  const key = `own/${freshId(
    "step",
    taken.map((k) => k.replace("own/", "")),
  )}`;
  return (
    <form
      aria-label="Own step"
      className="mt-2 grid gap-2 border-l-2 border-pick pl-3"
      onSubmit={(e) => {
        e.preventDefault();
        void add({
          what: "own",
          key,
          title: title.trim(),
          minutes,
          wait_min: wait,
          after: after ? [after] : [],
          before: before ? [before] : [],
        });
      }}
    >
      <label className="grid gap-1">
        <span className="label-type text-small">What is done</span>
        <input
          className="field-box"
          required
          maxLength={120}
          value={title}
          onChange={(e) => setTitle(e.target.value)}
        />
      </label>
      <div className="grid grid-cols-2 gap-2">
        <NumberField label="Work, minutes" value={minutes} quantity="plain" whole onChange={setMinutes} />
        <NumberField label="Wait after it, minutes" value={wait} quantity="plain" whole onChange={setWait} />
      </div>
      <Choice label="After" value={after} options={options} onChange={setAfter} />
      <Choice label="Before" value={before} options={options} onChange={setBefore} />
      <p className="flex gap-2">
        <button type="submit" className="key-main">
          Add step
        </button>
        <button type="button" className="key-button" onClick={close}>
          Cancel
        </button>
      </p>
    </form>
  );
}
