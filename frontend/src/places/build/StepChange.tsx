import { useState } from "react";
import { Choice, NumberField } from "../../forms/fields";
import { titleOf } from "./bench";
import type { Operation, Plan } from "./shop";
import type { Change } from "./useWork";

interface Props {
  o: Operation;
  plan: Plan;
  change: (one: Change) => Promise<string | null>;
  close: () => void;
}

/** Your own way with a step: how long, after what, not before when, in parts, or not at all. */
export function StepChange({ o, plan, change, close }: Props) {
  const [minutes, setMinutes] = useState(Math.round(o.minutes.typ));
  const [after, setAfter] = useState("");
  const [day, setDay] = useState("");
  const [why, setWhy] = useState("");
  const [refused, setRefused] = useState<string | null>(null);
  const make = async (one: Change) => {
    const said = await change(one);
    setRefused(said);
    if (!said) close();
  };
  const others = plan.operations.filter((other) => other.key !== o.key);
  const half = Math.max(Math.round(minutes / 2), 1);
  return (
    <div role="group" aria-label={`Change: ${titleOf(o)}`} className="mt-2 border-l-2 border-pick pl-3">
      <div className="grid max-w-xl grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
        <NumberField
          label="Takes you, minutes"
          value={minutes}
          quantity="plain"
          whole
          onChange={setMinutes}
        />
        <button
          type="button"
          className="key-button"
          onClick={() => void make({ what: "time", key: o.key, minutes })}
        >
          Keep time
        </button>
        <Choice
          label="Only after"
          value={after}
          options={[
            { value: "", label: "choose a step" },
            ...others.map((other) => ({ value: other.key, label: titleOf(other) })),
          ]}
          onChange={setAfter}
        />
        <button
          type="button"
          className="key-button"
          disabled={!after}
          onClick={() => void make({ what: "order", key: o.key, after })}
        >
          Keep order
        </button>
        <label className="grid gap-1">
          <span className="label-type text-small">Not before</span>
          <input
            type="datetime-local"
            className="field-box"
            value={day}
            onChange={(e) => setDay(e.target.value)}
          />
        </label>
        <button
          type="button"
          className="key-button"
          disabled={!day}
          onClick={() => void make({ what: "later", key: o.key, at: new Date(day).toISOString() })}
        >
          Put off
        </button>
        <label className="grid gap-1">
          <span className="label-type text-small">Reason to leave it out</span>
          <input className="field-box" maxLength={200} value={why} onChange={(e) => setWhy(e.target.value)} />
        </label>
        <button
          type="button"
          className="key-button text-fail"
          disabled={!why.trim()}
          onClick={() => void make({ what: "out", key: o.key, why: why.trim() })}
        >
          Leave out
        </button>
      </div>
      <p className="mt-2">
        <button
          type="button"
          className="key-button"
          onClick={() => void make({ what: "split", key: o.key, parts: [half, Math.max(minutes - half, 1)] })}
        >
          Do it in two parts
        </button>
      </p>
      {refused && (
        <p role="alert" className="mt-2 text-fail">
          {refused}
        </p>
      )}
    </div>
  );
}
