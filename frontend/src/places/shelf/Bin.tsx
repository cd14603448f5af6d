import { useQuery } from "@tanstack/react-query";
import { accepted, useChange } from "../../api/changes";
import { api, must } from "../../api/client";
import { keys, of } from "../../api/queries";

const withoutId = (now: unknown, id: string) => (now as { id: string }[]).filter((row) => row.id !== id);

/** What was taken off the shelf: for thirty days it can be put back. */
export function Bin() {
  const bin = useQuery({ queryKey: keys.bin, queryFn: () => must(api.GET("/api/bin")), staleTime: 0 });
  const back = useChange<string>({
    send: (id) => accepted(api.POST("/api/bin/{airframe_id}/back", of(id))),
    refreshes: [keys.bin, keys.shelf],
    guess: withoutId,
  });
  const remove = useChange<string>({
    send: (id) => accepted(api.DELETE("/api/bin/{airframe_id}", of(id))),
    refreshes: [keys.bin],
    guess: withoutId,
  });
  if (!bin.data?.length) return null;
  const trouble = back.error ?? remove.error;
  return (
    <section aria-label="Bin" className="mt-8">
      <h2 className="border-b border-ink pb-2 text-title font-bold">Bin</h2>
      {trouble && (
        <p role="alert" className="mt-2 text-fail">
          {trouble.problems[0]?.message}
        </p>
      )}
      <ul>
        {bin.data.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-rule py-2">
            <span className="min-w-48 font-semibold">{row.name}</span>
            <span className="text-body text-soft">
              until {new Date(row.until).toLocaleDateString("en-GB", { dateStyle: "medium" })}
            </span>
            <button
              type="button"
              className="key-button"
              aria-label={`Restore ${row.name}`}
              onClick={() => back.mutate(row.id)}
            >
              Restore
            </button>
            <button
              type="button"
              className="key-button border-transparent text-fail"
              aria-label={`Delete ${row.name} for good`}
              onClick={() => remove.mutate(row.id)}
            >
              Delete for good
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
