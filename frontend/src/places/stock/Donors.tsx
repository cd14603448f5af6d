import { useScrapPart } from "../../api/changes";
import { useShelf } from "../../api/queries";

/** Foam from parts of broken airframes: the largest sound box in a core. */
export function Donors() {
  const shelf = useShelf().data ?? [];
  const scrap = useScrapPart();
  const parts = shelf
    .filter((a) => a.document.state === "broken")
    .flatMap((a) => (a.document.parts ?? []).filter((p) => p.foam).map((p) => ({ airframe: a, part: p })));
  if (parts.length === 0) return null;
  return (
    <section aria-label="Foam from scrapped parts" className="mt-8">
      <h2 className="border-b border-ink pb-1 font-semibold">Foam from scrapped parts</h2>
      <p className="max-w-prose py-1 text-small text-soft">
        The largest sound box in the core of a broken airframe. For trials, jigs and fillers; never structure
        that flies.
      </p>
      <ul>
        {parts.map(({ airframe, part }) => (
          <li
            key={airframe.id + part.id}
            className="flex items-center justify-between gap-3 border-b border-rule py-1"
          >
            <span>
              {part.name} <span className="text-soft">· {airframe.document.name}</span>
            </span>
            <button
              type="button"
              className="key-button"
              aria-label={`Cut a block from ${part.name} of ${airframe.document.name}`}
              onClick={() => scrap.mutate({ airframe: airframe.id, part: part.id })}
            >
              Cut a block
            </button>
          </li>
        ))}
      </ul>
      {scrap.error && (
        <p role="alert" className="py-1 text-fail">
          {scrap.error.problems.map((p) => `${p.path} ${p.message}`.trim()).join("; ")}
        </p>
      )}
    </section>
  );
}
