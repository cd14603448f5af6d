import { useState } from "react";
import { Link } from "react-router";
import { useShelf } from "../../api/queries";
import { NewPart } from "../shelf/NewPart";

/** Every part of every airframe, the damaged ones first: which one is on the desk? */
export function CrashList() {
  const shelf = useShelf();
  const [sketching, setSketching] = useState(false);
  const parts = (shelf.data ?? []).flatMap((a) =>
    (a.document.parts ?? []).map((part) => ({ airframe: a, part, marks: part.damage?.length ?? 0 })),
  );
  parts.sort((a, b) => b.marks - a.marks);
  const hurt = parts.filter((p) => p.marks > 0);
  return (
    <>
      <main className="mx-auto w-full max-w-4xl px-6 pb-16">
        <h1 className="sr-only">Crash desk</h1>
        <h2 className="border-b border-ink pt-8 pb-2 text-title font-semibold">Broken</h2>
        {shelf.isSuccess && hurt.length === 0 && (
          <p className="py-3 text-soft">No damaged parts. Choose a part below to mark damage.</p>
        )}
        <ul>
          {hurt.map(({ airframe, part, marks }) => (
            <li key={airframe.id + part.id} className="border-b border-rule">
              <Link
                to={`/crash/${airframe.id}/${part.id}`}
                className="flex min-h-14 items-center justify-between gap-4 py-2 hover:bg-pick-wash"
              >
                <span>
                  <strong>{part.name}</strong> <span className="text-soft">of {airframe.document.name}</span>
                </span>
                <span className="text-fail">
                  {marks} {marks === 1 ? "damage mark" : "damage marks"}
                </span>
              </Link>
            </li>
          ))}
        </ul>
        <h2 className="border-b border-ink pt-8 pb-2 text-title font-semibold">Mark another part</h2>
        <p className="flex flex-wrap items-center gap-x-4 gap-y-2 py-3">
          <button type="button" className="key-button" onClick={() => setSketching(true)}>
            Sketch a part that is not here
          </button>
          <span className="text-soft">
            Its construction and size are enough to start; then mark the damage.
          </span>
        </p>
        <ul className="grid gap-x-8 sm:grid-cols-2">
          {parts
            .filter((p) => p.marks === 0)
            .map(({ airframe, part }) => (
              <li key={airframe.id + part.id} className="border-b border-rule">
                <Link
                  to={`/crash/${airframe.id}/${part.id}`}
                  className="flex min-h-11 items-center gap-2 hover:bg-pick-wash"
                >
                  {part.name} <span className="text-soft">of {airframe.document.name}</span>
                </Link>
              </li>
            ))}
        </ul>
      </main>
      {sketching && <NewPart into={null} broken onClose={() => setSketching(false)} />}
    </>
  );
}
