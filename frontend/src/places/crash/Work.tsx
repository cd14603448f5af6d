import { useState } from "react";
import { Link } from "react-router";
import { type Schemas } from "../../api/client";
import { useRemoveJob, useTick } from "../../api/changes";
import { useJobs } from "../../api/queries";
import { NotStored } from "../../words/NotStored";
import { Operations } from "./Operations";
import { Checks } from "./Checks";

/** The work on this part: every repair that was adopted, step by step, and the checks that follow. */
export function Work({ airframeId, partId }: { airframeId: string; partId: string }) {
  const jobs = useJobs(airframeId);
  const tick = useTick(airframeId);
  /** Ticks on their way: shown in the same breath, forgotten once the server has answered. */
  const [sent, setSent] = useState<Record<string, boolean>>({});
  const isDone = (job: Schemas["JobOut"], task: Schemas["TaskOut"]) =>
    sent[`${job.id} ${task.number}`] ?? task.done !== null;
  const change = (job: Schemas["JobOut"], task: Schemas["TaskOut"], done: boolean) => {
    const step = `${job.id} ${task.number}`;
    setSent((all) => ({ ...all, [step]: done }));
    const forget = () =>
      setSent((all) => Object.fromEntries(Object.entries(all).filter(([k]) => k !== step)));
    void tick
      .mutateAsync({ job, task, done })
      .catch(() => null)
      .then(forget); // a refusal stands above the work
  };
  const remove = useRemoveJob(airframeId);
  const mine = (jobs.data ?? []).filter((j) => j.part_id === partId);
  if (jobs.isSuccess && mine.length === 0)
    return (
      <p className="px-5 py-4 text-soft">No repair in progress. Choose a repair and its steps appear here.</p>
    );
  return (
    <section className="px-5 py-3" aria-label="Repair steps">
      <NotStored change={tick} what={`Step ${tick.variables?.task.number ?? ""}`} />
      <NotStored change={remove} what="The work" />
      {mine.map((job) => {
        const left = job.tasks.filter((t) => !isDone(job, t)).length;
        return (
          <article key={job.id} className="mb-8" aria-label={job.title}>
            <div className="flex items-baseline justify-between gap-4 border-b border-ink">
              <h2 className="text-lead font-semibold">{job.title}</h2>
              <span className="flex items-center gap-3 whitespace-nowrap">
                <span role="status" className={job.state === "failed" ? "text-fail" : "text-soft"}>
                  {job.state === "failed"
                    ? "✕ a check failed: do not fly"
                    : job.state === "passed"
                      ? "✓ all done, every check passed"
                      : left > 0
                        ? `${left} of ${job.tasks.length} steps left`
                        : "checks still open"}
                </span>
                <Link className="key-button" to={`/build/${airframeId}?repair=${job.id}`}>
                  Plan it<span className="sr-only">: {job.title}</span>
                </Link>
                <button type="button" className="key-button text-fail" onClick={() => remove.mutate(job.id)}>
                  Delete<span className="sr-only"> the repair {job.title}</span>
                </button>
              </span>
            </div>
            <Operations
              operations={job.tasks.map((t) => ({
                number: t.number,
                operation: t.operation,
                done: isDone(job, t),
              }))}
              head={(number) => {
                const task = job.tasks.find((t) => t.number === number)!;
                return (
                  <label className="flex min-h-9 items-center gap-1.5 text-body">
                    <input
                      type="checkbox"
                      checked={isDone(job, task)}
                      onChange={(e) => change(job, task, e.target.checked)}
                    />
                    done<span className="sr-only">: step {number}</span>
                  </label>
                );
              }}
            />
            <Checks job={job} airframeId={airframeId} />
          </article>
        );
      })}
    </section>
  );
}
