import { useId } from "react";
import type { Schemas } from "../api/client";

type Asked = Schemas["Asked"];
type Found = Asked["found"];

const ANSWERS: [Found, string][] = [
  ["whole", "whole"],
  ["broken", "broken"],
  ["open", "not seen"],
];

interface Seen {
  whole: string[];
  broken: string[];
}

interface Props {
  asked: Asked[];
  /** What the mark says already: it answers at once, the computed question only when the drawing has rested. */
  seen: Seen;
  answer: (line: string, found: Found) => void;
}

const foundOf = (line: string, seen: Seen): Found =>
  seen.whole.includes(line) ? "whole" : seen.broken.includes(line) ? "broken" : "open";

/** What crosses a mark, line by line: seen whole, seen broken, or not seen, which counts as broken. */
export function StillWhole({ asked, seen, answer }: Props) {
  const name = useId();
  if (asked.length === 0) return null;
  return (
    <div className="col-span-full max-w-2xl">
      <p className="label-type text-small">What is still whole there?</p>
      <ul>
        {asked.map((a) => (
          <li key={a.line_id} className="flex flex-wrap items-center gap-x-4 border-t border-rule">
            <span className="min-w-48 flex-1 text-body">{a.says}</span>
            <span role="radiogroup" aria-label={`${a.says}: is it whole?`} className="flex gap-x-4">
              {ANSWERS.map(([found, label]) => (
                <label key={found} className="flex min-h-10 items-center gap-1.5 text-body">
                  <input
                    type="radio"
                    className="size-5 accent-(--pick)"
                    name={`${name}-${a.line_id}`}
                    checked={foundOf(a.line_id, seen) === found}
                    onChange={() => answer(a.line_id, found)}
                  />
                  {label}
                </label>
              ))}
            </span>
          </li>
        ))}
      </ul>
      <p className="text-note text-soft">What is not seen counts as broken. Open a cover and look.</p>
    </div>
  );
}

/** A mark with what was found of a line. */
export function answered<M extends Seen>(mark: M, line: string, found: Found): M {
  const without = (lines: string[]) => lines.filter((l) => l !== line);
  const [whole, broken] = [without(mark.whole), without(mark.broken)];
  return {
    ...mark,
    whole: found === "whole" ? [...whole, line] : whole,
    broken: found === "broken" ? [...broken, line] : broken,
  };
}
