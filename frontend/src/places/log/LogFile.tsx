import { useState } from "react";
import { accepted, useTakeLogTable } from "../../api/changes";
import { api, Refused, type Part, type Problem } from "../../api/client";
import { FileButton } from "../../forms/FileButton";
import { Modal } from "../../forms/Modal";
import { ProblemList } from "../../words/ProblemList";
import { flightWords } from "../../part/LogRow";
import { KIND } from "../../part/logKinds";

/** The entries that a table would bring. */
const look = (airframeId: string, text: string) =>
  accepted(
    api.POST("/api/crash/airframes/{airframe_id}/log-from-table", {
      params: { path: { airframe_id: airframeId } },
      body: { text, keep: false },
    }),
  );

type Found = NonNullable<Awaited<ReturnType<typeof look>>> & { text: string };

/** The Log as a table in CSV, out and in; what comes in is shown before it is taken. */
export function LogFile({ airframeId, parts }: { airframeId: string; parts: Part[] }) {
  const [found, setFound] = useState<Found | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const take = useTakeLogTable(airframeId);
  const read = async (file: File) => {
    setProblems([]);
    try {
      const text = await file.text();
      const told = await look(airframeId, text);
      if (told) setFound({ ...told, text });
    } catch (refused) {
      if (!(refused instanceof Refused)) throw refused;
      setProblems(refused.problems);
    }
  };
  const close = () => setFound(null);
  const wrong = problems.length > 0 ? problems : (take.error?.problems ?? []);
  return (
    <>
      <span className="flex flex-wrap gap-2 print:hidden">
        <a
          className="key-button inline-flex min-h-11 items-center"
          href={`/api/crash/airframes/${airframeId}/log.csv`}
          download="log.csv"
        >
          Save as CSV
        </a>
        <a
          className="key-button inline-flex min-h-11 items-center"
          href={`/api/crash/log.pdf?airframe=${airframeId}`}
          target="_blank"
          rel="noreferrer"
        >
          Print as PDF
        </a>
        <FileButton
          label="Open CSV"
          name="Table of log entries"
          accept=".csv,text/csv"
          onFile={(f) => void read(f)}
        />
      </span>
      {wrong.length > 0 && (
        <div role="alert" className="basis-full pt-2 text-fail">
          Nothing was taken from the table:
          <ProblemList problems={wrong} />
        </div>
      )}
      {found && (
        <Modal title="Entries from a table" onClose={close}>
          <Preview found={found} parts={parts} />
          <p className="flex flex-wrap gap-2 pt-4">
            <button
              type="button"
              className="key-main"
              disabled={found.entries.length === 0 || take.isPending}
              onClick={() => take.mutate(found.text, { onSettled: close })}
            >
              {found.entries.length === 1 ? "Add 1 entry" : `Add ${found.entries.length} entries`}
            </button>
            <button type="button" className="key-button" onClick={close}>
              Cancel
            </button>
          </p>
        </Modal>
      )}
    </>
  );
}

const SHOWN = 100;

function Preview({ found, parts }: { found: Found; parts: Part[] }) {
  const nameOf = (id: string | null | undefined) => parts.find((p) => p.id === id)?.name;
  return (
    <>
      {found.known > 0 && (
        <p className="pb-2 text-soft">
          {found.known === 1 ? "1 line is" : `${found.known} lines are`} in the Log already and will be left
          out.
        </p>
      )}
      {found.entries.length === 0 && <p className="py-2 text-soft">Nothing new in this table.</p>}
      <ol className="max-h-80 overflow-y-auto border-t border-rule" aria-label="New entries">
        {found.entries.slice(0, SHOWN).map((e, n) => (
          <li
            key={n}
            className="grid grid-cols-[9.5rem_6rem_minmax(0,1fr)] gap-x-3 border-b border-rule py-1"
          >
            <span className="figure-type text-soft">
              {e.happened
                ? new Date(e.happened).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })
                : "now"}
            </span>
            <strong>{KIND[e.event.kind]}</strong>
            <span>
              {e.event.flight &&
                e.event.says !== flightWords(e.event.flight) &&
                `${flightWords(e.event.flight)}: `}
              {e.event.says}
              {nameOf(e.event.part_id) && <span className="text-soft"> · {nameOf(e.event.part_id)}</span>}
            </span>
          </li>
        ))}
      </ol>
      {found.entries.length > SHOWN && (
        <p className="pt-1 text-soft">and {found.entries.length - SHOWN} more</p>
      )}
    </>
  );
}
