import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import type { LogLine } from "../api/queries";
import { plain, show } from "../forms/units";
import { KIND } from "./logKinds";

interface Props {
  entry: LogLine;
  /** The part that it is about. */
  partName: string;
  /** What can be done with it. */
  children?: ReactNode;
  /** What stands below its words. */
  below?: ReactNode;
}

/** What a flight entry adds to its words. */
export function flightWords(f: Schemas["Flight"]): string {
  const said = [(f.count ?? 1) === 1 ? "1 flight" : `${f.count} flights`];
  if (f.minutes != null) said.push(`${plain(f.minutes, 3)} min`);
  if (f.wind_m_s != null) said.push(`wind ${show(f.wind_m_s, "speed", 2)}`);
  if (f.battery) said.push(f.battery);
  return said.join(", ");
}

/** An entry of the Log: when, what, about which part, what came after it, and how it read before. */
export function LogRow({ entry: e, partName, children, below }: Props) {
  const { event } = e;
  const where = [partName, event.at_mm == null ? "" : `${show(event.at_mm, "length")} from root`];
  const words = event.flight ? flightWords(event.flight) : "";
  return (
    <li className="grid grid-cols-[9.5rem_6.5rem_minmax(0,1fr)_auto] gap-x-3 border-b border-rule py-1.5 max-sm:grid-cols-1">
      <time dateTime={e.happened} className="figure-type text-body text-soft">
        {new Date(e.happened).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
      </time>
      <strong>{KIND[event.kind]}</strong>
      <span className="leading-snug">
        {words}
        {words && event.says !== words && ": "}
        {event.says !== words && event.says}
        {where.some(Boolean) && <span className="text-soft"> · {where.filter(Boolean).join(", ")}</span>}
        {e.followed && <span className="block text-small text-soft">{e.followed}</span>}
        {(e.earlier ?? []).map((old) => (
          <span key={old.changed} className="block text-small text-soft">
            until {new Date(old.changed).toLocaleDateString("en-GB", { dateStyle: "medium" })}:{" "}
            <del>{old.says}</del>
          </span>
        ))}
        {below}
      </span>
      <span className="flex max-w-60 flex-wrap content-start items-start justify-end gap-1 max-sm:max-w-none max-sm:justify-start print:hidden">
        {children}
      </span>
    </li>
  );
}
