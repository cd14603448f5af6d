import { useState } from "react";
import { Link } from "react-router";
import type { Part } from "../../api/client";
import { useCorrectLog, useRemoveLog } from "../../api/changes";
import { useCatalogue, type LogLine } from "../../api/queries";
import { startCoupon } from "../../part/couponDraft";
import { LogRow } from "../../part/LogRow";
import type { Kind } from "../../part/logKinds";
import { canKeep, eventOf, momentOf, typedOf, type Typed } from "./entry";
import { EntryFields } from "./EntryFields";
import { AddPicture, EntryPictures } from "./EntryPictures";

/** Entries that may tell of a glue that was tried. */
const AS_COUPON: ReadonlySet<Kind> = new Set(["build", "test", "note", "repair"]);

interface EntryProps {
  airframeId: string;
  entry: LogLine;
  parts: Part[];
  partName: string;
}

/** One entry, to be corrected or removed; a removed one can be put back at once. */
export function LogEntry({ airframeId, entry, parts, partName }: EntryProps) {
  const [typed, setTyped] = useState<Typed | null>(null);
  const [gone, setGone] = useState(false);
  const correct = useCorrectLog(airframeId);
  const remove = useRemoveLog(airframeId);
  const catalogue = useCatalogue().data;
  const part = parts.find((p) => p.id === entry.event.part_id);
  const at = (path: string) => correct.error?.problems.find((p) => p.path === path);
  if (gone)
    return (
      <li className="flex items-center gap-3 border-b border-rule py-1.5 text-soft">
        Removed.
        <button
          type="button"
          className="key-button"
          onClick={() => remove.mutate({ id: entry.id, back: true }, { onSuccess: () => setGone(false) })}
        >
          Put it back
        </button>
      </li>
    );
  if (typed)
    return (
      <li className="border-b border-rule py-3">
        <form
          aria-label="Correct entry"
          onSubmit={(e) => {
            e.preventDefault();
            const body = { event: eventOf(typed), happened: momentOf(typed.when) };
            correct.mutate({ id: entry.id, body }, { onSuccess: () => setTyped(null) });
          }}
        >
          <EntryFields
            typed={typed}
            parts={parts}
            fixed
            at={at}
            change={(update) => setTyped({ ...typed, ...update })}
          />
          <p className="flex gap-2 pt-3">
            <button type="submit" className="key-main" disabled={!canKeep(typed)}>
              Keep correction
            </button>
            <button type="button" className="key-button" onClick={() => setTyped(null)}>
              Cancel
            </button>
          </p>
        </form>
      </li>
    );
  return (
    <LogRow entry={entry} partName={partName} below={<EntryPictures {...{ airframeId, entry }} />}>
      <AddPicture {...{ airframeId, entry }} />
      {AS_COUPON.has(entry.event.kind) && catalogue && (
        <Link
          className="key-button inline-flex items-center"
          to="/joints?what=coupons"
          aria-label={`Enter as glue test: ${entry.event.says}`}
          onClick={() => startCoupon(entry.event.says, part, catalogue)}
        >
          Glue test
        </Link>
      )}
      <button
        type="button"
        className="key-button"
        aria-label={`Correct: ${entry.event.says}`}
        onClick={() => setTyped(typedOf(entry))}
      >
        Correct
      </button>
      <button
        type="button"
        className="key-button border-transparent text-fail"
        aria-label={`Remove: ${entry.event.says}`}
        onClick={() => remove.mutate({ id: entry.id, back: false }, { onSuccess: () => setGone(true) })}
      >
        Remove
      </button>
    </LogRow>
  );
}
