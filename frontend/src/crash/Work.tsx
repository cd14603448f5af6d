import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, must, type Schemas } from "../api/client";
import { plain, show, type Quantity } from "../shared/units";
import { Operations } from "./Operations";

export function useJobs(airframeId: string) {
  return useQuery({
    queryKey: ["jobs", airframeId],
    queryFn: () =>
      must(
        api.GET("/api/crash/airframes/{airframe_id}/jobs", { params: { path: { airframe_id: airframeId } } }),
      ),
    staleTime: 0,
  });
}

/** The work on this part: every repair that was adopted, step by step, and the checks that follow. */
export function Work({ airframeId, partId }: { airframeId: string; partId: string }) {
  const queries = useQueryClient();
  const jobs = useJobs(airframeId);
  const mine = (jobs.data ?? []).filter((j) => j.part_id === partId);
  const refresh = () =>
    Promise.all([
      queries.invalidateQueries({ queryKey: ["jobs", airframeId] }),
      queries.invalidateQueries({ queryKey: ["log", airframeId] }),
    ]);
  const [ticked, setTicked] = useState<Record<string, boolean>>({});
  const isDone = (job: Schemas["JobOut"], task: Schemas["TaskOut"]) =>
    ticked[`${job.id} ${task.number}`] ?? task.done !== null;
  const tick = async (job: Schemas["JobOut"], number: number, done: boolean) => {
    setTicked((t) => ({ ...t, [`${job.id} ${number}`]: done }));
    await api.PUT("/api/crash/jobs/{job_id}/tasks/{number}", {
      params: { path: { job_id: job.id, number } },
      body: { done, note: "" },
    });
    await refresh();
  };
  const remove = async (job: Schemas["JobOut"]) => {
    await api.DELETE("/api/crash/jobs/{job_id}", { params: { path: { job_id: job.id } } });
    await refresh();
  };
  if (jobs.isSuccess && mine.length === 0)
    return (
      <p className="px-5 py-4 text-soft">No work on this part. Adopt a repair, then its steps stand here.</p>
    );
  return (
    <section className="px-5 py-3" aria-label="Work">
      {mine.map((job) => {
        const left = job.tasks.filter((t) => !isDone(job, t)).length;
        return (
          <article key={job.id} className="mb-8" aria-label={job.title}>
            <div className="flex items-baseline justify-between gap-4 border-b border-ink">
              <h2 className="text-lg font-semibold">{job.title}</h2>
              <span className="flex items-center gap-3 whitespace-nowrap">
                <span role="status" className="text-soft">
                  {left === 0 ? "✓ all done" : `${left} of ${job.tasks.length} to do`}
                </span>
                <button type="button" className="key-button text-fail" onClick={() => void remove(job)}>
                  Take out<span className="sr-only"> the work {job.title}</span>
                </button>
              </span>
            </div>
            <Operations
              operations={job.tasks.map((t) => ({
                number: t.number,
                operation: t.operation,
                done: isDone(job, t),
              }))}
              head={(number) => (
                <label className="flex min-h-9 items-center gap-1.5 text-[0.9rem]">
                  <input
                    type="checkbox"
                    checked={isDone(
                      job,
                      job.tasks.find((t) => t.number === number)!,
                    )}
                    onChange={(e) => void tick(job, number, e.target.checked)}
                  />
                  done<span className="sr-only">: step {number}</span>
                </label>
              )}
            />
            <h3 className="mt-4 border-b border-ink font-semibold">Compare with what is foreseen</h3>
            <table className="w-full text-[0.92rem]">
              <caption className="sr-only">Checks with what is foreseen</caption>
              <thead className="label-type text-[0.8rem] text-soft">
                <tr className="border-b border-rule">
                  <th scope="col" className="text-left">
                    check
                  </th>
                  <th scope="col" className="pl-3 text-right">
                    other half
                  </th>
                  <th scope="col" className="pl-3 text-right">
                    mended half
                  </th>
                  <th scope="col" className="pl-3 text-left">
                    stop at
                  </th>
                </tr>
              </thead>
              <tbody>
                {job.checks.map((c) => (
                  <tr key={c.what} className="border-b border-rule align-top">
                    <th scope="row" className="py-1 text-left font-normal">
                      <strong>{c.what}</strong>
                      <span className="block text-[0.85rem] text-soft">{c.how}</span>
                    </th>
                    <Foreseen band={c.whole} unit={c.unit} />
                    <Foreseen band={c.mended} unit={c.unit} />
                    <td className="py-1 pl-3 leading-snug">{c.stop}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </article>
        );
      })}
    </section>
  );
}

const QUANTITY: Record<string, Quantity> = { mm: "length", g: "mass", "°": "angle" };

/** A figure whose unit the core names, as it is read. */
function withUnit(value: number, unit: string): string {
  const quantity = QUANTITY[unit];
  return quantity ? show(value, quantity) : `${plain(value, 3)} ${unit}`.trim();
}

function Foreseen({ band, unit }: { band: Schemas["Band"] | null; unit: string }) {
  if (!band) return <td className="py-1 pl-3 text-right text-soft">the same</td>;
  return (
    <td className="py-1 pl-3 text-right whitespace-nowrap">
      <span className="figure-type">{withUnit(band.typ, unit)}</span>
      <span className="block text-[0.8rem] text-soft">
        {withUnit(band.low, unit)} – {withUnit(band.high, unit)}
      </span>
    </td>
  );
}
