import { Link, useNavigate } from "react-router";
import type { Airframe, Part } from "../../api/client";
import { Kept } from "../../part/Kept";
import type { Snapshot } from "../../part/keeper";

interface Props {
  document: Airframe;
  part: Part;
  airframeId: string;
  draft: Snapshot;
  step: (way: "undo" | "redo") => void;
  openHistory: () => void;
  openKeys: () => void;
}

/** Which part is on the bench, whether it is saved, and the way back. */
export function BenchHeader({ document, part, airframeId, draft, step, openHistory, openKeys }: Props) {
  const navigate = useNavigate();
  return (
    <>
      <h1 className="flex min-w-0 items-center gap-2 font-label font-semibold">
        <Link to={`/airframe/${airframeId}`} className="truncate hover:underline">
          {document.name}
        </Link>
        <span className="text-soft">·</span>
        <select
          aria-label="Part on the Bench"
          className="field-box w-auto max-w-56 border-transparent font-semibold hover:border-hair"
          value={part.id}
          onChange={(e) => void navigate(`/bench/${airframeId}/${e.target.value}`)}
        >
          {(document.parts ?? []).map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
      </h1>
      <span className="ml-auto flex items-center gap-1.5">
        <Kept draft={draft} step={step} />
        {(part.damage ?? []).length > 0 && (
          <Link to={`/crash/${airframeId}/${part.id}`} className="key-button">
            Crash desk
          </Link>
        )}
        <button type="button" className="key-button" onClick={openHistory}>
          History
        </button>
        <button type="button" className="key-button" aria-label="Keyboard shortcuts" onClick={openKeys}>
          ?
        </button>
      </span>
    </>
  );
}
