import type { ReactNode } from "react";

/** What stands over a column of words rather than of numbers: at its left edge. */
export const ofWords = (says: ReactNode) => ({ says, left: true });

type Head = ReactNode | ReturnType<typeof ofWords>;

const isLeft = (head: Head): head is ReturnType<typeof ofWords> =>
  typeof head === "object" && head !== null && "left" in head;

interface Props {
  /** What the table is of, for those who hear it. */
  caption: ReactNode;
  /** What stands over the columns: the first holds names, the others numbers. */
  heads: Head[];
  className?: string;
  /** Its rows. */
  children: ReactNode;
}

/** A table of the answers' kind: names at the left, numbers at the right, a line under the head. */
export function Table({ caption, heads, className = "", children }: Props) {
  return (
    <table className={`w-full text-body ${className}`}>
      <caption className="sr-only">{caption}</caption>
      <thead className="label-type text-note text-soft">
        <tr className="border-b border-ink align-bottom">
          {heads.map((head, n) => (
            <th
              key={n}
              scope="col"
              className={n === 0 ? "py-1 text-left" : `pl-3 ${isLeft(head) ? "text-left" : "text-right"}`}
            >
              {isLeft(head) ? head.says : head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
}
