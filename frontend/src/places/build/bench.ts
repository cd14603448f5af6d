import type { Schemas } from "../../api/client";
import type { Operation, Plan, Planned } from "./shop";

export type Press = Schemas["Press"];
export type Work = Schemas["Work"];
export type GateAt = Schemas["GateAt"];

/** A step as it stands at the bench: pressed here counts at once, before the plan has been made anew. */
export interface StepNow {
  o: Operation;
  state: Planned["state"];
  begins: string;
  ends: string;
  sets: string | null;
  loaded: string | null;
  gates: GateAt[];
  notes: readonly string[];
}

export interface Clock {
  key: string;
  glue: string;
  says: string;
  ends: string;
}

/** So long a clock that has rung is still shown, ms. */
const FORGOTTEN_MS = 3_600_000;

const plus = (moment: string, minutes: number) =>
  new Date(new Date(moment).getTime() + 60_000 * minutes).toISOString();

/** All steps of a plan with what was pressed since it was made. */
export function stepsNow(plan: Plan, fresh: readonly Press[]): StepNow[] {
  return plan.planned.map((p, n) => {
    const o = plan.operations[n]!;
    let step: StepNow = {
      o,
      state: p.state ?? "open",
      begins: p.begins,
      ends: p.ends,
      sets: p.sets ?? null,
      loaded: p.loaded ?? null,
      gates: p.gates ?? [],
      notes: p.notes ?? [],
    };
    for (const press of fresh) if (press.key === o.key) step = pressed(step, press);
    return step;
  });
}

function pressed(step: StepNow, press: Press): StepNow {
  switch (press.what) {
    case "begun":
      return step.state === "open"
        ? { ...step, state: "running", begins: press.at, ends: plus(press.at, step.o.minutes.typ) }
        : step;
    case "more":
      return { ...step, state: "running", ends: plus(step.ends, press.value ?? 10) };
    case "done":
    case "not_right":
      return {
        ...step,
        state: "done",
        ends: press.at,
        sets: step.o.fixed_min ? plus(press.at, step.o.fixed_min) : null,
        loaded: step.o.loaded_min ? plus(press.at, step.o.loaded_min) : null,
      };
    case "undone":
      return { ...step, state: "open", sets: null, loaded: null, gates: step.gates.map(unseen) };
    case "gate":
      return { ...step, gates: step.gates.map((g) => (g.key === press.gate ? looked(g, press) : g)) };
    default:
      return step;
  }
}

const unseen = (g: GateAt): GateAt => ({ ...g, stands: "open", value: null, note: "" });

const looked = (g: GateAt, press: Press): GateAt => ({
  ...g,
  stands: press.result || "passed",
  value: press.value ?? null,
  note: press.note ?? "",
  knows: [...(g.knows ?? []), press.id],
});

/** Steps that hands can be put to now: what runs, then what waits for nothing more, in the order of the plan. */
export function nextSteps(steps: readonly StepNow[], now: number): StepNow[] {
  const by = new Map(steps.map((s) => [s.o.key, s]));
  const free = (s: StepNow) =>
    s.o.after.every((a) => {
      const before = by.get(a.key);
      return !before || (before.state === "done" && new Date(plus(before.ends, a.wait_min)).getTime() <= now);
    });
  return [
    ...steps.filter((s) => s.state === "running"),
    ...steps.filter((s) => s.state === "open" && free(s)),
  ];
}

/** What sets, the soonest first; what has rung for an hour is no longer shown. */
export function clocksOf(steps: readonly StepNow[], now: number): Clock[] {
  return steps
    .filter((s) => s.state === "done")
    .flatMap((s) =>
      (
        [
          [s.sets, "holds itself"],
          [s.loaded, "carries its load"],
        ] as const
      ).flatMap(([ends, what]) =>
        ends && now - new Date(ends).getTime() < FORGOTTEN_MS
          ? [{ key: `${s.o.key} ${what}`, glue: s.o.glue, says: `${titleOf(s.o)}: ${what}`, ends }]
          : [],
      ),
    )
    .sort((a, b) => a.ends.localeCompare(b.ends));
}

/** A step as it is called. */
export function titleOf(o: Operation): string {
  const title = o.title[0]!.toUpperCase() + o.title.slice(1);
  return o.piece ? `${title}, ${o.piece}` : title;
}

/** Minutes and seconds, or hours and minutes, until a moment. */
export function countdown(ends: string, now: number): string {
  const s = Math.round(Math.abs(new Date(ends).getTime() - now) / 1000);
  const two = (n: number) => String(n).padStart(2, "0");
  return s < 3600
    ? `${Math.floor(s / 60)}:${two(s % 60)}`
    : `${Math.floor(s / 3600)} h ${two(Math.floor((s % 3600) / 60))}`;
}
