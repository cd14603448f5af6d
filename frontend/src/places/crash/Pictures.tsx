import { useId, useState } from "react";
import { type Part } from "../../api/client";
import { useAddPicture, useRemovePicture } from "../../api/changes";
import { usePictures } from "../../api/queries";
import { NotStored } from "../../words/NotStored";
import { MARKS } from "../../part/Marks";
import { Choice } from "../../forms/fields";

interface Props {
  airframeId: string;
  part: Part;
  /** Stores the document, so that the server knows the marks. */
  stored: () => Promise<number | null>;
}

/** Photographs at the marks of a part. */
export function Pictures({ airframeId, part, stored }: Props) {
  const id = useId();
  const marks = part.damage ?? [];
  const [mark, setMark] = useState<string | null>(null);
  const list = usePictures(airframeId);
  const add = useAddPicture(airframeId);
  const remove = useRemovePicture(airframeId);
  const mine = (list.data ?? []).filter((p) => p.part_id === part.id);
  const chosen = marks.find((m) => m.id === mark)?.id ?? marks[0]?.id;
  const put = async (file: File) => {
    await stored();
    add.mutate({ file, part: part.id, mark: chosen ?? "" });
  };
  if (marks.length === 0) return null;
  return (
    <section aria-label="Photos of the damage" className="px-5 pb-4">
      <h2 className="mt-4 border-b border-ink text-lead font-semibold">Photos</h2>
      <div className="flex flex-wrap items-end gap-3 py-2">
        <div className="w-64">
          <Choice
            label="For mark"
            value={chosen ?? ""}
            options={marks.map((m, n) => ({ value: m.id, label: `${n + 1} ${MARKS[m.kind]}` }))}
            onChange={setMark}
          />
        </div>
        <label
          htmlFor={id}
          className="key-button inline-flex cursor-pointer items-center focus-within:outline-2"
        >
          Add photo
          <input
            id={id}
            type="file"
            accept="image/jpeg,image/png,image/webp"
            className="sr-only"
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = "";
              if (file) void put(file);
            }}
          />
        </label>
        <span className="text-small text-soft">
          JPEG, PNG or WebP, up to 8 MB. Location and camera data are removed.
        </span>
      </div>
      {add.error && (
        <p role="alert" className="text-fail">
          The picture {add.error.problems[0]!.message}
        </p>
      )}
      <NotStored change={remove} what="The picture" />
      <ul className="flex flex-wrap gap-3">
        {mine.map((p) => {
          const n = marks.findIndex((m) => m.id === p.mark_id);
          const label = n < 0 ? "Deleted mark" : `${n + 1} ${MARKS[marks[n]!.kind]}`;
          return (
            <li key={p.id} className="border border-rule">
              <a href={`/api/crash/pictures/${p.id}`} target="_blank" rel="noreferrer">
                <img
                  src={`/api/crash/pictures/${p.id}`}
                  alt={`Photo of mark ${label}`}
                  className="h-32 w-44 object-cover"
                />
              </a>
              <span className="flex items-center justify-between gap-2 px-2 py-1 text-small">
                {label}
                <button type="button" className="key-button text-fail" onClick={() => remove.mutate(p.id)}>
                  ×<span className="sr-only"> remove the photo of {label}</span>
                </button>
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
