import { useState } from "react";
import { accepted, useTakeStockTable } from "../../api/changes";
import { api, Refused, type Problem } from "../../api/client";
import { saveBlob } from "../../charts/save";
import { FileButton } from "../../forms/FileButton";
import { Modal } from "../../forms/Modal";
import { ProblemList } from "../../words/ProblemList";

interface Found {
  text: string;
  things: string[];
}

/** The shelf as a table in CSV, out and in; what comes in is shown before it is put on. */
export function StockFile() {
  const [found, setFound] = useState<Found | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const take = useTakeStockTable();
  const read = async (file: File) => {
    setProblems([]);
    try {
      const text = await file.text();
      const told = await accepted(api.POST("/api/stock/own-from-table", { body: { text, put_on: false } }));
      if (told) setFound({ text, things: told.things });
    } catch (refused) {
      if (!(refused instanceof Refused)) throw refused;
      setProblems(refused.problems);
    }
  };
  const save = async () => {
    const table = await accepted(api.GET("/api/stock/own-table"));
    if (table) saveBlob(new Blob([table.text], { type: "text/csv" }), "stockroom.csv");
  };
  const close = () => setFound(null);
  return (
    <>
      <span className="flex flex-wrap gap-2 print:hidden">
        <button type="button" className="key-button" onClick={() => void save()}>
          Save as CSV
        </button>
        <FileButton
          label="Open CSV"
          name="Table of stock"
          accept=".csv,text/csv"
          onFile={(f) => void read(f)}
        />
      </span>
      {problems.length > 0 && (
        <div role="alert" className="basis-full text-fail">
          Nothing was taken from the table:
          <ProblemList problems={problems} />
        </div>
      )}
      {found && (
        <Modal title="Things from a table" onClose={close}>
          <ol className="max-h-80 overflow-y-auto border-t border-rule" aria-label="Things">
            {found.things.map((t, n) => (
              <li key={n} className="border-b border-rule py-1">
                {t}
              </li>
            ))}
          </ol>
          {take.error && (
            <div role="alert" className="pt-2 text-fail">
              <ProblemList problems={take.error.problems} />
            </div>
          )}
          <p className="flex flex-wrap gap-2 pt-4">
            <button
              type="button"
              className="key-main"
              disabled={found.things.length === 0 || take.isPending}
              onClick={() => take.mutate(found.text, { onSuccess: close })}
            >
              {found.things.length === 1 ? "Add 1 line" : `Add ${found.things.length} lines`}
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
