import { useEffect, useRef } from "react";
import { clock } from "./shop";
import { countdown, type Clock } from "./bench";

/** A short sound, where the browser allows one. */
function ring() {
  try {
    const audio = new AudioContext();
    const tone = audio.createOscillator();
    const loud = audio.createGain();
    loud.gain.value = 0.2;
    tone.frequency.value = 660;
    tone.connect(loud).connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + 0.8);
  } catch {
    // no sound here: the line says it
  }
}

/** What sets, the soonest first. A clock is a moment, not a count: it is right after sleep and reload. */
export function Clocks({ clocks, now }: { clocks: Clock[]; now: number }) {
  const rung = useRef<Set<string> | null>(null);
  useEffect(() => {
    const over = clocks.filter((c) => new Date(c.ends).getTime() <= now).map((c) => c.key);
    if (rung.current && over.some((key) => !rung.current!.has(key))) ring();
    rung.current = new Set(over);
  }, [clocks, now]);
  if (clocks.length === 0) return null;
  return (
    <section aria-label="Clocks" className="border-b border-ink">
      <ul>
        {clocks.map((c) => {
          const ready = new Date(c.ends).getTime() <= now;
          return (
            <li
              key={c.key}
              className="grid grid-cols-[7rem_minmax(0,1fr)] items-baseline gap-x-4 border-t border-rule py-2"
            >
              <span className={`figure-type text-title font-bold ${ready ? "text-pick" : ""}`}>
                {ready ? "ready" : countdown(c.ends, now)}
              </span>
              <span className="leading-snug" role={ready ? "status" : undefined}>
                {c.says}
                <span className="block text-small text-soft">
                  {c.glue};{" "}
                  {ready
                    ? `rang ${Math.floor((now - new Date(c.ends).getTime()) / 60_000)} min ago`
                    : `at ${clock(c.ends)}`}
                </span>
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
