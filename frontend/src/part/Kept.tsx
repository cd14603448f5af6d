import { PHASE_WORDS, type Snapshot } from "./keeper";

interface Props {
  draft: Pick<Snapshot, "phase" | "canUndo" | "canRedo">;
  step: (which: "undo" | "redo") => void;
}

/** How the document is kept, and the way back and forth through its states. */
export function Kept({ draft: { phase, canUndo, canRedo }, step }: Props) {
  return (
    <>
      <span
        role="status"
        aria-label="Saved"
        className={`mr-1 text-small ${phase === "saved" || phase === "saving" ? "text-soft" : "text-fail"}`}
      >
        {PHASE_WORDS[phase]}
      </span>
      <button
        type="button"
        className="key-button"
        disabled={!canUndo && phase !== "invalid"}
        onClick={() => step("undo")}
      >
        Undo
      </button>
      <button type="button" className="key-button" disabled={!canRedo} onClick={() => step("redo")}>
        Redo
      </button>
    </>
  );
}
