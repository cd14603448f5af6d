import { useState } from "react";
import { accepted } from "../../api/changes";
import { api, Refused, type Airframe, type Problem } from "../../api/client";
import { FileButton } from "../../forms/FileButton";
import { freshId } from "../../forms/ids";
import { Modal } from "../../forms/Modal";
import { show } from "../../forms/units";
import type { Item } from "./sideShapes";

interface Props {
  airframeId: string;
  document: Airframe;
  edit: (change: (d: Airframe) => Airframe) => void;
}

/** Hands a text to the browser as a file. */
function save(text: string, name: string) {
  const link = window.document.createElement("a");
  link.href = URL.createObjectURL(new Blob([text], { type: "text/csv;charset=utf-8" }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** The items of a table put to those that are there, each under an id of its own. */
export function withItems(d: Airframe, items: Item[], replace: boolean): Airframe {
  const kept = replace ? [] : (d.equipment ?? []);
  const all = [...kept];
  for (const item of items) {
    const id = freshId(
      item.what ?? "other",
      all.map((e) => e.id),
    );
    all.push({ ...item, id });
  }
  return { ...d, equipment: all };
}

/** Ledger and equipment as tables in CSV, out and in; what comes in is shown before it is taken. */
export function Tables({ airframeId, document, edit }: Props) {
  const [found, setFound] = useState<Item[] | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const ask = async (call: () => Promise<void>) => {
    setProblems([]);
    try {
      await call();
    } catch (refused) {
      if (!(refused instanceof Refused)) throw refused;
      setProblems(refused.problems);
    }
  };
  const out = (which: "ledger" | "equipment") =>
    ask(async () => {
      const table =
        which === "ledger"
          ? await accepted(
              api.POST("/api/studies/ledger-table", { body: { document, airframe_id: airframeId } }),
            )
          : await accepted(api.POST("/api/studies/equipment-table", { body: { document } }));
      if (table) save(table.text, `${which}.csv`);
    });
  const read = (file: File) =>
    ask(async () => {
      const text = await file.text();
      const items = await accepted(api.POST("/api/studies/equipment-from-table", { body: { text } }));
      setFound(items ?? []);
    });
  const take = (replace: boolean) => {
    edit((d) => withItems(d, found ?? [], replace));
    setFound(null);
  };
  return (
    <section aria-label="Tables" className="mt-6 print:hidden">
      <h2 className="border-b border-ink pb-1 font-semibold">Tables</h2>
      <div className="flex flex-wrap gap-2 pt-3">
        <button type="button" className="key-button" onClick={() => void out("ledger")}>
          Save ledger as CSV
        </button>
        <button type="button" className="key-button" onClick={() => void out("equipment")}>
          Save equipment as CSV
        </button>
        <FileButton
          label="Open equipment from CSV"
          name="Table of equipment"
          accept=".csv,text/csv"
          onFile={(f) => void read(f)}
        />
      </div>
      {problems.length > 0 && (
        <div role="alert" className="pt-2 text-fail">
          <p>Nothing was taken from the table:</p>
          <ul>
            {problems.map((p) => (
              <li key={p.path + p.message}>
                {p.path}: {p.message}
                {p.value && ` (found ${p.value})`}
              </li>
            ))}
          </ul>
        </div>
      )}
      {found && (
        <Modal title="Equipment from a table" onClose={() => setFound(null)}>
          <ul className="border-t border-rule">
            {found.map((e) => (
              <li key={e.id} className="flex justify-between gap-4 border-b border-rule py-1">
                <span>
                  {e.name || e.stock || e.what}
                  {e.pair && " × 2"}
                </span>
                <span className="figure-type">
                  {e.mass_g == null ? "" : show(e.mass_g, "mass", 3)} at {show(e.x_mm ?? 0, "length", 4)}
                </span>
              </li>
            ))}
          </ul>
          {found.length === 0 && <p className="py-2 text-soft">The table has headings and no lines.</p>}
          <p className="flex flex-wrap gap-2 pt-4">
            <button type="button" className="key-main" onClick={() => take(true)}>
              Replace equipment
            </button>
            <button
              type="button"
              className="key-button"
              onClick={() => take(false)}
              disabled={found.length === 0}
            >
              Add to it
            </button>
          </p>
        </Modal>
      )}
    </section>
  );
}
