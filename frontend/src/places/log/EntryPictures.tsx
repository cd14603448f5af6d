import { useId } from "react";
import { useAddEntryPicture, useRemovePicture } from "../../api/changes";
import type { LogLine } from "../../api/queries";
import { NotStored } from "../../words/NotStored";

/** Photographs at an entry, and at the marks that it brought. */
export function EntryPictures({ airframeId, entry }: { airframeId: string; entry: LogLine }) {
  const remove = useRemovePicture(airframeId);
  const shown = entry.pictures ?? [];
  if (shown.length === 0) return null;
  return (
    <>
      <NotStored change={remove} what="The picture" />
      <ul className="mt-1 flex flex-wrap gap-2" aria-label={`Photos of: ${entry.event.says}`}>
        {shown.map((id, n) => (
          <li key={id} className="relative border border-rule">
            <a href={`/api/crash/pictures/${id}`} target="_blank" rel="noreferrer">
              <img
                src={`/api/crash/pictures/${id}`}
                alt={`Photo ${n + 1} of ${entry.event.says}`}
                className="h-20 w-28 object-cover"
              />
            </a>
            <button
              type="button"
              className="key-button absolute top-0 right-0 text-fail print:hidden"
              onClick={() => remove.mutate(id)}
            >
              ×<span className="sr-only"> remove photo {n + 1}</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** Puts a photograph to an entry. */
export function AddPicture({ airframeId, entry }: { airframeId: string; entry: LogLine }) {
  const id = useId();
  const add = useAddEntryPicture(airframeId);
  return (
    <>
      <label
        htmlFor={id}
        className="key-button inline-flex cursor-pointer items-center focus-within:outline-2"
        title="JPEG, PNG or WebP, up to 8 MB. Location and camera data are removed."
      >
        {add.isPending ? "Sending…" : "Photo"}
        <input
          id={id}
          type="file"
          accept="image/jpeg,image/png,image/webp"
          aria-label={`Add photo to: ${entry.event.says}`}
          className="sr-only"
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = "";
            if (file) add.mutate({ entry: entry.id, file });
          }}
        />
      </label>
      {add.error && (
        <span role="alert" className="text-small text-fail">
          The picture {add.error.problems[0]!.message}
        </span>
      )}
    </>
  );
}
