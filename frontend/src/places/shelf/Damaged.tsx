import { useQuery } from "@tanstack/react-query";
import { useChange, accepted } from "../../api/changes";
import { api, must, type Schemas } from "../../api/client";
import { keys } from "../../api/queries";

type Row = Schemas["DamagedOut"];

const SORTS: Record<Row["kind"], string> = {
  airframe: "An airframe",
  entry: "An entry of a log",
  job: "A work list",
  candidate: "A kept repair",
  coupon: "A glue test",
  trial: "A fair test",
};

/** What is stored and cannot be read any more: its raw file can be saved, and it can be taken out. */
export function Damaged() {
  const found = useQuery({ queryKey: keys.damaged, queryFn: () => must(api.GET("/api/damaged")) });
  const remove = useChange<Row>({
    send: ({ kind, id }) =>
      accepted(api.DELETE("/api/damaged/{kind}/{row_id}", { params: { path: { kind, row_id: id } } })),
    refreshes: [keys.damaged],
    guess: (now, { id }) => (now as Row[]).filter((row) => row.id !== id),
  });
  if (!found.data?.length) return null;
  return (
    <section aria-label="Damaged" className="mt-8">
      <h2 className="border-b border-ink pb-2 text-title font-bold">Damaged in the store</h2>
      <p className="mt-2 max-w-prose text-body text-soft">
        This is kept, but no page can show it. Save its raw file before you take it out; everything else is as
        it was.
      </p>
      <ul>
        {found.data.map((row) => (
          <li key={row.id} className="flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-rule py-2">
            <span className="min-w-64">
              {SORTS[row.kind]} of{" "}
              {new Date(row.created).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
            </span>
            <a
              className="inline-flex min-h-10 items-center text-pick underline"
              href={`/api/damaged/${row.kind}/${row.id}`}
            >
              Save its raw file
            </a>
            <button type="button" className="key-button" onClick={() => remove.mutate(row)}>
              Take it out
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
