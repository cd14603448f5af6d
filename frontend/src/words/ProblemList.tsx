import type { Problem } from "../api/client";

/** What is wrong, each with the place in the file that it names. */
export function ProblemList({ problems }: { problems: Problem[] }) {
  return (
    <ul className="mt-1 grid max-h-60 gap-1 overflow-y-auto">
      {problems.map((p) => (
        <li key={p.path + p.message}>
          {p.path && <span className="figure-type">{p.path} </span>}
          {p.message}
          {p.value && ` (${p.value})`}
        </li>
      ))}
    </ul>
  );
}
