import { useState } from "react";
import type { LoadCase, Part } from "../../api/client";
import { useKeptHere } from "../../forms/useKeptHere";

interface Seen {
  part: Part;
  chosen: LoadCase;
  /** The figure whose working is open. */
  figure: string | null;
}

interface Step {
  does: string;
  then: string;
  done: (now: Seen, start: Seen) => boolean;
}

const weightOf = (c: LoadCase) => ("weight_g" in c ? c.weight_g : undefined);
const lines = (part: Part, type: string) => (part.layers ?? []).filter((la) => la.type === type);

/** Four things to try, each known to be done by what it changes. */
const STEPS: Step[] = [
  {
    does: "Hang a weight: choose “Bench: mid-span weight” above the drawing, then change its mass under Loads.",
    then: "The wing bends on its two supports, as it would on your bench.",
    done: (now, start) => {
      const before = start.part.cases.find((c) => c.id === now.chosen.id);
      return now.chosen.type === "three_point" && (!before || weightOf(before) !== weightOf(now.chosen));
    },
  },
  {
    does: "Leave the tape out: untick the strip of tape in the lay-up.",
    then: "See at the foot what it weighs, and what it was good for.",
    done: (now, start) =>
      lines(now.part, "strip").some(
        (la) =>
          la.enabled === false && lines(start.part, "strip").find((l) => l.id === la.id)?.enabled !== false,
      ),
  },
  {
    does: "Move the rods: press a rod in the lay-up and change its chord position or its foam cover.",
    then: "The nearer to the faces, the stiffer: depth counts most.",
    done: (now, start) =>
      lines(now.part, "bar").some(
        (la) => JSON.stringify(la) !== JSON.stringify(lines(start.part, "bar").find((l) => l.id === la.id)),
      ),
  },
  {
    does: "Read why: press a figure at the foot.",
    then: "Every figure opens to its formula, its inputs and where they come from.",
    done: (now) => now.figure !== null,
  },
];

/** A part on which the steps can be done. */
const suits = (part: Part) =>
  lines(part, "strip").length > 0 &&
  lines(part, "bar").length > 0 &&
  part.cases.some((c) => c.type === "three_point");

/** A first run by doing: four steps on a wing with rods and tape. It can be skipped, and found again under “?”. */
export function Tour({ part, chosen, figure, asked }: Seen & { asked: number }) {
  const [kept, keep] = useKeptHere("fletcher-tour", false, (k) => (typeof k === "boolean" ? k : null));
  const now = { part, chosen, figure };
  const [run, setRun] = useState<{ asked: number; start: Seen; at: number } | null>(null);
  if (asked > 0 && run?.asked !== asked && suits(part)) setRun({ asked, start: now, at: 0 });
  const step = run ? STEPS[run.at] : undefined;
  if (run && step?.done(now, run.start)) setRun({ ...run, at: run.at + 1 });
  if (!suits(part)) return null;
  const leave = () => {
    keep(true);
    setRun(run && { ...run, at: STEPS.length + 1 });
  };
  const begin = () => setRun({ asked, start: now, at: 0 });
  if (!run)
    return kept ? null : (
      <Strip says="New here? Four things to try on this wing take two minutes. Undo takes them all back.">
        <button type="button" className="key-button" onClick={begin}>
          Start tour
        </button>
        <button type="button" className="key-button border-transparent" onClick={leave}>
          Skip tour
        </button>
      </Strip>
    );
  if (run.at > STEPS.length) return null;
  if (!step)
    return (
      <Strip says={`${STEPS.at(-1)!.then} That was all. Undo takes every change back.`}>
        <button type="button" className="key-button" onClick={leave}>
          End tour
        </button>
      </Strip>
    );
  return (
    <Strip
      says={`${run.at > 0 ? `${STEPS[run.at - 1]!.then} ` : ""}`}
      does={`${run.at + 1} of ${STEPS.length}. ${step.does}`}
    >
      <button type="button" className="key-button border-transparent" onClick={leave}>
        Skip tour
      </button>
    </Strip>
  );
}

function Strip({ says, does, children }: { says: string; does?: string; children: React.ReactNode }) {
  return (
    <section
      aria-label="Tour"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-pick bg-pick-wash px-5 py-1.5"
    >
      <p className="min-w-60 flex-1 leading-snug" aria-live="polite">
        {says}
        {does && <strong>{does}</strong>}
      </p>
      {children}
    </section>
  );
}
