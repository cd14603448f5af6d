import { useState } from "react";
import { parseQuantity } from "../../forms/units";
import type { GateAt, StepNow } from "./bench";
import type { Bench } from "./useWork";

const STANDS: Record<GateAt["stands"], string> = {
  open: "□",
  passed: "✓ passed",
  failed: "✕ not passed",
  waived: "passed by",
};

/** The checks before a step: passed with a value if there is one, or not; a reason to pass one by. */
export function GateChecks({ step, press }: { step: StepNow; press: Bench["press"] }) {
  if (step.gates.length === 0) return null;
  return (
    <section aria-label="Checks before it" className="mt-3">
      <h3 className="label-type border-b border-ink pb-1">Before you begin</h3>
      <ul>
        {step.gates.map((g) => (
          <Check
            key={g.key}
            says={step.o.gates.find((o) => o.key === g.key)?.says ?? g.key}
            waivable={step.o.gates.find((o) => o.key === g.key)?.waivable ?? false}
            gate={g}
            tell={(result, value, note) =>
              press({
                what: "gate",
                key: step.o.key,
                gate: g.key,
                result,
                value,
                note,
                knows: [...(g.knows ?? [])],
                made_of: "",
                box_C: null,
              })
            }
          />
        ))}
      </ul>
    </section>
  );
}

interface CheckProps {
  says: string;
  /** Whether it may be passed by with a reason. */
  waivable: boolean;
  gate: GateAt;
  tell: (result: "passed" | "failed" | "waived", value: number | null, note: string) => void;
}

function Check({ says, waivable, gate, tell }: CheckProps) {
  const [note, setNote] = useState("");
  const read = parseQuantity(note, "plain");
  const words = read === null ? note.trim() : "";
  return (
    <li className="border-b border-rule py-2">
      <p className="leading-snug">
        <strong className={gate.stands === "failed" ? "text-fail" : ""}>{STANDS[gate.stands]}</strong> {says}
        {gate.value != null && <span className="figure-type"> {gate.value}</span>}
        {gate.note && <span className="text-soft"> {gate.note}</span>}
      </p>
      <div className="mt-1 grid grid-cols-[minmax(0,1fr)_auto_auto] items-stretch gap-2 sm:grid-cols-[minmax(0,1fr)_auto_auto_auto]">
        <input
          aria-label={`Measured or noted: ${says}`}
          placeholder="measured, noted"
          className="field-box min-h-16"
          value={note}
          maxLength={200}
          onChange={(e) => setNote(e.target.value)}
        />
        <button
          type="button"
          className="key-button min-h-16 min-w-16"
          onClick={() => tell("passed", read, words)}
        >
          ✓ Passed
        </button>
        <button
          type="button"
          className="key-button min-h-16 min-w-16 text-fail"
          onClick={() => tell("failed", read, words)}
        >
          ✕ Not
        </button>
        {waivable && (
          <button
            type="button"
            className="key-button min-h-16 max-sm:col-span-full"
            disabled={!words}
            title="Enter a reason first"
            onClick={() => tell("waived", null, words)}
          >
            Pass by
          </button>
        )}
      </div>
    </li>
  );
}
