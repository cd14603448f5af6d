import type { Airframe, Part } from "../../api/client";
import { Kept } from "../../part/Kept";
import type { Snapshot } from "../../part/keeper";

interface Props {
  document: Airframe;
  part: Part;
  draft: Snapshot;
  step: (way: "undo" | "redo") => void;
  openHistory: () => void;
  openKeys: () => void;
}

/** Which part is on the bench, whether it is saved, and the way back. */
export function BenchHeader({ document, part, draft, step, openHistory, openKeys }: Props) {
  return (
    <>
      <h1 className="sr-only">
        {document.name}, {part.name}
      </h1>
      <span className="ml-auto flex flex-wrap items-center gap-1.5">
        <Kept draft={draft} step={step} />
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
