import type { Schemas } from "../../api/client";
import { plain } from "../../forms/units";

export type Shop = Schemas["ShopWish"];
export type Hours = NonNullable<Shop["hours"]>[number];
export type Plan = Schemas["Plan"];
export type Operation = Plan["operations"][number];
export type Planned = Plan["planned"][number];

export const DAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const;
export const DAY: Record<(typeof DAYS)[number], string> = {
  mon: "Mon",
  tue: "Tue",
  wed: "Wed",
  thu: "Thu",
  fri: "Fri",
  sat: "Sat",
  sun: "Sun",
};

/** Evenings and weekends at an ordinary bench. */
export const USUAL: Shop = {
  people: 1,
  warmth_C: 20,
  boards: 1,
  clamps: 8,
  probe: true,
  wire_mm: 0.4,
  hours: [
    { days: ["mon", "tue", "wed", "thu", "fri"], from_hour: 18, to_hour: 22 },
    { days: ["sat", "sun"], from_hour: 9, to_hour: 17 },
  ],
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC",
  begins: null,
};

/** The steps of each piece, in the order in which the pieces come up; what is of no piece is of the whole airframe. */
export function byPiece(plan: Plan): { piece: string; steps: { o: Operation; p: Planned }[] }[] {
  const rows = new Map<string, { o: Operation; p: Planned }[]>();
  plan.planned.forEach((p, n) => {
    const o = plan.operations[n]!;
    const name = o.piece || "Whole airframe";
    rows.set(name, [...(rows.get(name) ?? []), { o, p }]);
  });
  return [...rows].map(([piece, steps]) => ({ piece, steps }));
}

/** The steps of each day, by the day on the wall. */
export function byDay(plan: Plan): { day: string; steps: { o: Operation; p: Planned }[] }[] {
  const days = new Map<string, { o: Operation; p: Planned }[]>();
  plan.planned.forEach((p, n) => {
    const day = new Date(p.begins).toLocaleDateString("en-GB", {
      weekday: "long",
      day: "numeric",
      month: "short",
    });
    days.set(day, [...(days.get(day) ?? []), { o: plan.operations[n]!, p }]);
  });
  return [...days].map(([day, steps]) => ({ day, steps }));
}

/** For every step the cautions that no step before it has told. */
export function cautionsOnce(plan: Plan): Map<string, Operation["cautions"]> {
  const told = new Set<string>();
  return new Map(
    plan.operations.map((o) => {
      const fresh = o.cautions.filter((c) => !told.has(c.key));
      for (const c of fresh) told.add(c.key);
      return [o.key, fresh] as const;
    }),
  );
}

/** The time on the wall. */
export const clock = (moment: string) =>
  new Date(moment).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

/** A day and the time on the wall. */
export const dayAndClock = (moment: string) =>
  new Date(moment).toLocaleString("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });

/** Minutes as minutes, or as hours from two on. */
export const span = (m: number) => (m >= 120 ? `${plain(m / 60, 2)} h` : `${Math.round(m)} min`);

/** Minutes between two moments. */
export const minutesBetween = (a: string, b: string) =>
  Math.round((new Date(b).getTime() - new Date(a).getTime()) / 60_000);
