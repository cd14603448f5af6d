import { useEffect, useState } from "react";
import { Refused, type Schemas } from "../api/client";
import { useInstruments } from "../api/queries";
import { linesOf } from "../api/stream";
import { Choice } from "../forms/fields";
import { show, type Quantity } from "../forms/units";

type Reading = Schemas["LiveReading"];

/** So long after a stream has ended it is asked for again. */
const AGAIN_MS = 2000;

const WORD: Record<Reading["state"], string> = {
  steady: "steady",
  moving: "moving",
  overload: "overload",
  silent: "silent",
  garbled: "not readable",
  away: "not connected",
};

/** What an instrument says now, for as long as somebody looks. */
function useReading(name: string): Reading | null {
  const [reading, setReading] = useState<Reading | null>(null);
  useEffect(() => {
    if (!name) return;
    const stop = new AbortController();
    let later: ReturnType<typeof setTimeout> | undefined;
    const look = async () => {
      try {
        const path = `/api/instruments/${encodeURIComponent(name)}/readings`;
        for await (const line of linesOf<{ reading: Reading }>(path, { signal: stop.signal }))
          if (line.reading) setReading(line.reading);
      } catch (refused) {
        if (stop.signal.aborted) return;
        const says =
          refused instanceof Refused ? refused.problems[0]!.message : "The server does not answer.";
        setReading((now) => ({ state: "away", unit: now?.unit ?? "", value: null, says }));
      }
      if (!stop.signal.aborted) later = setTimeout(() => void look(), AGAIN_MS);
    };
    void look();
    return () => {
      stop.abort();
      clearTimeout(later);
      setReading(null);
    };
  }, [name]);
  return reading;
}

interface Props {
  /** The unit that is wanted, and what it is a unit of. */
  unit: string;
  quantity: Quantity;
  onTake: (value: number) => void;
}

/** A live reading of one of the bench's instruments, to be taken by a press once it is steady; nothing where there is no
 * instrument for it. */
export function LiveReading({ unit, quantity, onTake }: Props) {
  const all = useInstruments();
  const fitting = (all.data ?? []).filter((i) => i.unit === unit);
  const [name, setName] = useState("");
  const reading = useReading(name);
  if (fitting.length === 0) return null;
  const { state, value } = reading ?? { state: "moving" as const, value: null };
  return (
    <div className="grid grid-cols-2 items-end gap-x-4">
      <Choice
        label="Instrument"
        value={name}
        options={[{ value: "", label: "by hand" }, ...fitting.map((i) => ({ value: i.name, label: i.name }))]}
        onChange={setName}
      />
      {name && (
        <div className="flex min-h-10 items-center justify-between gap-2">
          <output aria-label="Live reading" className="leading-tight">
            <span className={`figure-type text-title ${state === "steady" ? "" : "text-soft"}`}>
              {value == null ? "–" : show(value, quantity, 5)}
            </span>
            <span className={`block text-note ${value == null && reading ? "text-fail" : "text-soft"}`}>
              {state === "steady" && "✓ "}
              {reading ? reading.says || WORD[state] : "connecting"}
            </span>
          </output>
          <button
            type="button"
            className="key-button"
            disabled={state !== "steady" || value == null}
            onClick={() => value != null && onTake(value)}
          >
            Take
          </button>
        </div>
      )}
    </div>
  );
}
