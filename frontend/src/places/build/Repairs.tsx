import { Link } from "react-router";
import { useJobs } from "../../api/queries";

/** Which work is planned: the whole build, or an adopted repair that is not done. */
export function Repairs({ airframe, repair }: { airframe: string; repair: string | null }) {
  const jobs = (useJobs(airframe).data ?? []).filter((j) => j.state !== "passed" || j.id === repair);
  if (jobs.length === 0) return null;
  const look = (on: boolean) =>
    `min-h-10 max-w-[40ch] truncate py-2 font-label font-semibold ${on ? "text-pick underline decoration-2 underline-offset-8" : ""}`;
  return (
    <nav aria-label="Work" className="flex flex-wrap gap-x-5 pt-2 print:hidden">
      <Link to={`/build/${airframe}`} className={look(!repair)} aria-current={repair ? undefined : "page"}>
        Whole build
      </Link>
      {jobs.map((j) => (
        <Link
          key={j.id}
          title={j.title}
          to={`/build/${airframe}?repair=${j.id}`}
          className={look(j.id === repair)}
          aria-current={j.id === repair ? "page" : undefined}
        >
          Repair: {j.title}
        </Link>
      ))}
    </nav>
  );
}
