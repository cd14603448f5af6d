import { Dialog } from "radix-ui";
import { useState } from "react";
import { useNavigate } from "react-router";
import { troubleOf, useNewAirframe } from "../api/changes";
import { Conflict } from "./Conflict";
import type { Keeper, Snapshot } from "./keeper";

interface Props {
  keeper: Keeper;
  draft: Snapshot;
}

/** What other windows did to the airframe on screen: changed it, changed it against what is typed here, deleted it. */
export function Elsewhere({ keeper, draft }: Props) {
  if (draft.phase === "gone") return <Gone keeper={keeper} draft={draft} />;
  if (draft.phase === "conflict" && draft.theirs) return <Conflict keeper={keeper} draft={draft} />;
  if (!draft.heard) return null;
  const [first = "its history alone", ...more] = draft.heard;
  return (
    <div
      aria-live="polite"
      className="fixed bottom-4 left-4 z-20 flex max-w-[min(34rem,92vw)] items-center gap-4 border border-ink bg-sheet px-4 py-2"
    >
      <p className="text-small">
        <b>Changed in another window:</b> {first}
        {more.length > 0 && `, and ${more.length} more`}
      </p>
      <button type="button" className="key-button" onClick={() => keeper.read()}>
        Read
      </button>
    </div>
  );
}

/** The airframe was deleted meanwhile: what is here can be put on the shelf as a new one. */
function Gone({ keeper, draft }: Props) {
  const navigate = useNavigate();
  const add = useNewAirframe();
  const [trouble, setTrouble] = useState("");
  const again = async () => {
    const refused = await troubleOf(
      add.mutateAsync(draft.document).then((made) => {
        keeper.letGo();
        void navigate(`/airframe/${(made as { id: string }).id}`, { replace: true });
      }),
    );
    setTrouble(refused ?? "");
  };
  const leave = () => {
    keeper.letGo();
    void navigate("/", { replace: true });
  };
  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/45" />
        <Dialog.Content
          className="fixed top-1/2 left-1/2 w-[min(34rem,94vw)] -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-7"
          onEscapeKeyDown={(e) => e.preventDefault()}
          onPointerDownOutside={(e) => e.preventDefault()}
        >
          <Dialog.Title className="text-title font-bold">This airframe was deleted elsewhere</Dialog.Title>
          <Dialog.Description className="mt-1">
            What you see is kept in this window. Put it on the shelf as a new airframe, or leave it.
          </Dialog.Description>
          <p role="alert" className="min-h-6 text-fail">
            {trouble}
          </p>
          <div className="flex flex-wrap gap-3">
            <button type="button" className="key-button" onClick={() => void again()}>
              Put it on the shelf again
            </button>
            <button type="button" className="key-button" onClick={leave}>
              Leave it
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
