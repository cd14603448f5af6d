import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { CautionLines } from "../../words/Cautions";
import { minutesText } from "../../forms/times";

interface Props {
  operations: { number: number; operation: Schemas["Operation"]; done?: boolean }[];
  /** What stands at the head of a step: a tick where it is being worked through. */
  head?: (number: number) => ReactNode;
}

/** Steps of work in order, with waits, checks, what must not be done, and the cautions at the step. */
export function Operations({ operations, head }: Props) {
  return (
    <ol aria-label="Steps">
      {operations.map(({ number, operation: op, done }) => (
        <li key={number} className="border-b border-rule py-2">
          <div className="flex items-baseline gap-3">
            <span className="figure-type w-6 text-right text-soft">{number}</span>
            <h3 className={`flex-1 font-semibold ${done ? "line-through" : ""}`}>{op.title}</h3>
            <span className="text-body whitespace-nowrap text-soft">
              {[
                op.starts_min > 0 && `from ${minutesText(op.starts_min)} on`,
                op.minutes.typ > 0 && `${minutesText(op.minutes.typ)} hands-on`,
                op.wait_min && `wait ${minutesText(op.wait_min.typ)} for ${op.wait_for}`,
              ]
                .filter(Boolean)
                .join(" · ")}
            </span>
            {head?.(number)}
          </div>
          <div className="pl-9 text-body leading-snug">
            <p className="max-w-prose">{op.how}</p>
            {op.checks.map((text) => (
              <p key={text}>
                <span aria-hidden>☐ </span>
                <span className="sr-only">Check: </span>
                {text}
              </p>
            ))}
            {op.never.map((text) => (
              <p key={text} className="text-fail">
                ✕ Do not: {text}
              </p>
            ))}
            {op.tools.length > 0 && <p className="text-soft">Tools: {op.tools.join(", ")}</p>}
            <CautionLines cautions={op.cautions} />
          </div>
        </li>
      ))}
    </ol>
  );
}
