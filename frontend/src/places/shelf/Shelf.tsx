import { useState } from "react";
import { Link } from "react-router";
import type { AirframeOut } from "../../api/client";
import { useShelf, useStandings } from "../../api/queries";
import { show } from "../../forms/units";
import { extentOf } from "../../part/AirframeDrawing";
import { AirframeRow } from "./AirframeRow";
import { Bin } from "./Bin";
import { Damaged } from "./Damaged";
import { Doors } from "./Doors";
import { Moving } from "./Moving";
import { NewPart } from "./NewPart";
import { OpenFile } from "./OpenFile";
import { useReadAhead } from "./readAhead";

/** The largest drawing, px. */
const [WIDEST, LONGEST] = [330, 190];

/** One scale for all airframes, px per mm, and a round length for its bar, mm. */
function oneScale(airframes: AirframeOut[]): [number, number] {
  const sizes = airframes.map((a) => extentOf(a.document));
  const wide = Math.max(400, ...sizes.map((s) => s.y1 - s.y0));
  const long = Math.max(200, ...sizes.map((s) => s.x1 - s.x0));
  const scale = Math.min(WIDEST / wide, LONGEST / long);
  return [scale, [1000, 500, 200, 100].find((mm) => mm * scale <= 140) ?? 50];
}

/** Home: all airframes of this builder, drawn to one scale, each with the verdict of its parts and what is due. */
export function Shelf() {
  const shelf = useShelf();
  const [adding, setAdding] = useState<AirframeOut | "broken" | null>(null);
  const airframes = shelf.data ?? [];
  const standings = useStandings(airframes.length > 0);
  useReadAhead(airframes.length > 0);
  const [scale, bar] = oneScale(airframes);
  return (
    <>
      <main className="mx-auto w-full max-w-[88rem] px-6 pb-16 max-sm:px-4">
        <div className="flex flex-wrap items-end justify-between gap-3 border-b border-ink pt-7 pb-3">
          <h1 className="text-figure font-bold">Shelf</h1>
          <span className="flex flex-wrap gap-2">
            {airframes.length > 0 && (
              <>
                <Link to="/new" className="key-main">
                  New airframe
                </Link>
                <Link to="/crash" className="key-button min-h-11">
                  Something broke
                </Link>
              </>
            )}
            <OpenFile />
          </span>
        </div>
        {shelf.isPending && <p className="mt-6 text-soft">Reading your Shelf…</p>}
        {shelf.isError && (
          <p className="mt-6 text-fail">The Shelf could not be loaded. Reload the page to try again.</p>
        )}
        {shelf.isSuccess && airframes.length === 0 && <Doors onBroken={() => setAdding("broken")} />}
        <ul aria-label="Airframes" aria-busy={standings.isFetching}>
          {airframes.map((a) => (
            <AirframeRow
              key={a.id}
              airframe={a}
              standing={standings.data?.[a.id]}
              checking={standings.isFetching}
              scale={scale}
              onAdd={() => setAdding(a)}
            />
          ))}
        </ul>
        {airframes.length > 0 && (
          <p className="label-type mt-3 flex items-center gap-3 text-small text-soft">
            all drawn to one scale
            <svg width={bar * scale + 2} height={11} aria-hidden="true">
              <path
                d={`M1 1v9M1 5.5h${bar * scale}M${bar * scale + 1} 1v9`}
                stroke="currentColor"
                fill="none"
              />
            </svg>
            {show(bar, "length", 4)}
          </p>
        )}
        <Damaged />
        <Bin />
        <Moving />
      </main>
      {adding && (
        <NewPart
          into={adding === "broken" ? null : adding}
          broken={adding === "broken"}
          onClose={() => setAdding(null)}
        />
      )}
    </>
  );
}
