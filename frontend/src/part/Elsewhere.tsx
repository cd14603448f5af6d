import { useState } from "react";
import { useNavigate } from "react-router";
import { troubleOf, useNewAirframe } from "../api/changes";
import { Modal } from "../forms/Modal";
import { Conflict } from "./Conflict";
import type { Heard, Keeper, Snapshot } from "./keeper";

/** Where a change was made, seen from this window. */
const WHERE: Record<Heard["device"], string> = {
  phone: "on a phone",
  tablet: "on a tablet",
  computer: "in another window",
  "": "in another window",
};

interface Props {
  keeper: Keeper;
  draft: Snapshot;
}

/** What other windows did to the airframe on screen: changed it, changed it against what is typed here, deleted it. */
export function Elsewhere({ keeper, draft }: Props) {
  if (draft.phase === "gone") return <Gone keeper={keeper} draft={draft} />;
  if (draft.phase === "conflict" && draft.theirs) return <Conflict keeper={keeper} draft={draft} />;
  if (!draft.heard) return null;
  const { says, device } = draft.heard;
  const [first = "its history alone", ...more] = says;
  return (
    <div
      aria-live="polite"
      className="fixed bottom-4 left-4 z-20 flex max-w-[min(34rem,92vw)] items-center gap-4 border border-ink bg-sheet px-4 py-2"
    >
      <p className="text-small">
        <b>Changed {WHERE[device]}:</b> {first}
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
    <Modal
      title="This airframe was deleted elsewhere"
      says="What you see is kept in this window. Put it on the shelf as a new airframe, or leave it."
    >
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
    </Modal>
  );
}
