import { graded, type Grade } from "./grades";

/** A grade as a ruled tag; failing is red and marked. */
export function Graded({ grade }: { grade: Grade }) {
  const looks =
    grade === "no"
      ? "border-fail text-fail"
      : grade === "doubtful"
        ? "border-ink border-dashed"
        : "border-hair";
  return (
    <span className={`label-type inline-block border px-1.5 text-small whitespace-nowrap ${looks}`}>
      {graded(grade)}
    </span>
  );
}
