import type { Schemas } from "../../api/client";
import type { LogLine } from "../../api/queries";
import { flightWords } from "../../part/LogRow";
import { KIND, type Kind } from "../../part/logKinds";

type Event = Schemas["Event"];

/** What is typed of an entry before it is sent. */
export interface Typed {
  kind: Kind;
  /** Local time as the browser writes it; empty is now. */
  when: string;
  part: string;
  at_mm: number | null;
  says: string;
  count: number;
  minutes: number | null;
  wind_m_s: number | null;
  battery: string;
}

/** Kinds that are written by hand here; the rest is written by its place. */
export const BY_HAND: readonly Kind[] = ["flight", "build", "test", "wear", "crash", "note"];

export const EMPTY: Typed = {
  kind: "flight",
  when: "",
  part: "",
  at_mm: null,
  says: "",
  count: 1,
  minutes: null,
  wind_m_s: null,
  battery: "",
};

/** Whether there is enough to keep: a flight speaks for itself, all else needs words. */
export const canKeep = (t: Typed) => t.kind === "flight" || t.says.trim() !== "";

/** The entry as it is sent. */
export function eventOf(t: Typed): Event {
  const flight =
    t.kind === "flight"
      ? { count: t.count, minutes: t.minutes, wind_m_s: t.wind_m_s, battery: t.battery.trim() }
      : null;
  return {
    kind: t.kind,
    part_id: t.part || null,
    at_mm: t.part ? t.at_mm : null,
    flight,
    says: t.says.trim() || (flight ? flightWords(flight) : KIND[t.kind]),
    crash: null,
    marks: [],
    stretches_mm: [],
  };
}

/** An entry as it is typed, to be corrected. */
export function typedOf(e: Pick<LogLine, "happened" | "event">): Typed {
  const f = e.event.flight;
  const own = f ? flightWords(f) : "";
  return {
    kind: e.event.kind,
    when: local(e.happened),
    part: e.event.part_id ?? "",
    at_mm: e.event.at_mm ?? null,
    says: e.event.says === own ? "" : e.event.says,
    count: f?.count ?? 1,
    minutes: f?.minutes ?? null,
    wind_m_s: f?.wind_m_s ?? null,
    battery: f?.battery ?? "",
  };
}

/** A moment as the browser's field for it wants it: local, to the minute. */
export function local(moment: string): string {
  const at = new Date(moment);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}

/** A typed moment as it is sent; null is now. */
export const momentOf = (when: string) => (when ? new Date(when).toISOString() : null);
