import { useState } from "react";
import { Link } from "react-router";
import { type AirframeOut, type Part } from "../../api/client";
import { useShelf } from "../../api/queries";
import { depth, planform } from "../../part/planform";
import { bare, show } from "../../forms/units";
import { Bin } from "./Bin";
import { Damaged } from "./Damaged";
import { NewPart } from "./NewPart";
import { Moving } from "./Moving";
import { OpenFile } from "./OpenFile";
import { TakeOff } from "./TakeOff";

const STATE_WORDS: Record<string, string> = { building: "In build", flying: "Flying", broken: "Broken" };

function Silhouette({ part, scale }: { part: Part; scale: number }) {
  const [front, rear] = depth(part);
  const [w, h] = [part.span_mm * scale, (rear - front) * scale];
  const points = planform(part).map(([y, x]) => `${y * scale},${(x - front) * scale}`);
  return (
    <svg width={w + 2} height={h + 2} viewBox={`-1 -1 ${w + 2} ${h + 2}`} aria-hidden="true">
      <polygon points={points.join(" ")} fill="var(--foam)" stroke="var(--ink)" strokeWidth="1.2" />
    </svg>
  );
}

function Row({ airframe, scale, onAdd }: { airframe: AirframeOut; scale: number; onAdd: () => void }) {
  const { document, id, updated } = airframe;
  return (
    <li className="grid grid-cols-[minmax(0,19rem)_1fr] gap-x-8 gap-y-3 border-b border-rule py-6 max-lg:grid-cols-1">
      <div>
        <h2 className="text-title font-bold">
          <Link to={`/airframe/${id}`} className="hover:underline">
            {document.name}
          </Link>
        </h2>
        <p className="label-type mt-1">
          {STATE_WORDS[document.state]} · {show(document.all_up_mass_g, "mass", 4)} all up
        </p>
        {document.note && <p className="mt-2 text-body leading-snug text-soft">{document.note}</p>}
        <p className="mt-2 text-small text-soft">
          Last changed{" "}
          {new Date(updated).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
        </p>
        <p className="mt-1 flex flex-wrap items-center gap-x-4 text-body">
          <Link to={`/airframe/${id}`} className="inline-flex min-h-10 items-center text-pick underline">
            Whole airframe
          </Link>
          <a
            className="inline-flex min-h-10 items-center text-pick underline"
            href={`/api/airframes/${id}/file`}
          >
            Export file
          </a>
          <TakeOff id={id} name={document.name} />
        </p>
      </div>
      <ul className="flex flex-wrap items-end gap-x-8 gap-y-4">
        {(document.parts ?? []).map((part) => (
          <li key={part.id}>
            <Link
              to={`/bench/${id}/${part.id}`}
              className="group block p-2 -m-2 hover:bg-pick-wash"
              aria-label={`Open ${part.name} on the Bench`}
            >
              <Silhouette part={part} scale={scale} />
              <span className="mt-2 block font-semibold group-hover:underline">{part.name}</span>
              <span className="block text-small text-soft">
                {bare(part.span_mm, "length", 4)} × {show(part.root_chord_mm, "length", 4)}
              </span>
            </Link>
          </li>
        ))}
        <li>
          <button type="button" className="key-button" onClick={onAdd}>
            Add a part
          </button>
        </li>
      </ul>
    </li>
  );
}

/** All airframes of this builder, each with its parts as outlines to one scale. */
export function Shelf() {
  const shelf = useShelf();
  const [adding, setAdding] = useState<AirframeOut | "new" | null>(null);
  const airframes = shelf.data ?? [];
  const widest = Math.max(400, ...airframes.flatMap((a) => (a.document.parts ?? []).map((p) => p.span_mm)));
  return (
    <>
      <main className="mx-auto max-w-6xl px-6 pb-16">
        <div className="flex items-end justify-between border-b border-ink pt-8 pb-3">
          <h1 className="text-figure font-bold">Shelf</h1>
          <span className="flex gap-2">
            <OpenFile />
            <Link to="/choose" className="key-button">
              Choose a construction
            </Link>
            <button type="button" className="key-button" onClick={() => setAdding("new")}>
              New airframe
            </button>
          </span>
        </div>
        {shelf.isError && (
          <p className="mt-6 text-fail">The Shelf could not be loaded. Reload the page to try again.</p>
        )}
        {shelf.isSuccess && airframes.length === 0 && (
          <p className="mt-8 max-w-prose">
            No airframes yet. Build something, repair something, or try the demo. A test plank is the quickest
            start: load it and watch it bend.
          </p>
        )}
        <ul>
          {airframes.map((a) => (
            <Row key={a.id} airframe={a} scale={300 / widest} onAdd={() => setAdding(a)} />
          ))}
        </ul>
        <Damaged />
        <Bin />
        <Moving />
      </main>
      {adding && <NewPart into={adding === "new" ? null : adding} onClose={() => setAdding(null)} />}
    </>
  );
}
