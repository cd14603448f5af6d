import { Modal } from "../forms/Modal";
import type { Keeper, Snapshot } from "./keeper";

interface Difference {
  path: string;
  mine: string;
  theirs: string;
}

/** Leaves in which two documents differ, by path. */
export function differences(mine: unknown, theirs: unknown, path = ""): Difference[] {
  if (JSON.stringify(mine) === JSON.stringify(theirs)) return [];
  const branches = (v: unknown): v is Record<string, unknown> => typeof v === "object" && v !== null;
  if (!branches(mine) || !branches(theirs)) {
    const shown = (v: unknown) => (v === undefined ? "–" : branches(v) ? "…" : String(v));
    return [{ path, mine: shown(mine), theirs: shown(theirs) }];
  }
  const keys = [...new Set([...Object.keys(mine), ...Object.keys(theirs)])];
  return keys.flatMap((key) => {
    const step = Array.isArray(mine) ? `${path} ${Number(key) + 1}` : `${path} ${key.replaceAll("_", " ")}`;
    return differences(mine[key], theirs[key], step.trim());
  });
}

/** Two places changed the same airframe: show how they differ and let the builder choose. */
export function Conflict({ keeper, draft }: { keeper: Keeper; draft: Snapshot }) {
  const found = differences(draft.document, draft.theirs!.document);
  return (
    <Modal
      title="Changed in another window"
      wide={42}
      says={`Another window saved version ${draft.theirs!.revision} while you worked on version ${draft.revision}. Keep mine: the other version stays in the history, one undo away. Use theirs: your change here is dropped.`}
    >
      <table className="mt-4 w-full text-left text-body">
        <thead className="label-type border-b border-ink">
          <tr>
            <th className="py-1">Field</th>
            <th>Mine</th>
            <th>Theirs</th>
          </tr>
        </thead>
        <tbody>
          {found.slice(0, 30).map((d) => (
            <tr key={d.path} className="border-b border-rule">
              <td className="py-1 pr-3">{d.path}</td>
              <td className="pr-3">{d.mine}</td>
              <td>{d.theirs}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-5 flex gap-3">
        <button type="button" className="key-button" onClick={() => void keeper.resolve("mine")}>
          Keep mine
        </button>
        <button type="button" className="key-button" onClick={() => void keeper.resolve("theirs")}>
          Use theirs
        </button>
      </div>
    </Modal>
  );
}
