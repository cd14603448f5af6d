import { Link } from "react-router";
import type { Airframe, Part } from "../api/client";

interface Props {
  document: Airframe;
  airframeId: string;
  /** Where one is: its parts lead to the same place; null is the whole airframe. */
  place: "bench" | "crash" | "balance" | "build" | "log" | null;
  part?: Part;
}

const TAB =
  "label-type flex min-h-11 items-center border-y-[3px] border-transparent px-2.5 whitespace-nowrap hover:text-pick aria-[current=page]:border-b-pick aria-[current=page]:text-pick";

/** Inside an airframe: the whole of it, its parts, and for a part its places. */
export function AirframeLine({ document, airframeId, place, part }: Props) {
  const to = place === "crash" ? "crash" : "bench";
  return (
    <>
      <p data-print-title className="hidden text-title font-bold">
        {document.name}
        {part && `: ${part.name}`}
      </p>
      <nav
        aria-label="Airframe"
        className="flex items-center gap-x-4 border-b border-rule bg-sheet px-5 max-sm:px-3"
      >
        <div className="flex min-w-0 flex-1 overflow-x-auto [scrollbar-width:thin]">
          <Link
            to={`/airframe/${airframeId}`}
            aria-current={place === null ? "page" : undefined}
            className={`${TAB} font-bold`}
            title="The whole airframe"
          >
            <span className="max-w-44 truncate">{document.name}</span>
          </Link>
          {(document.parts ?? []).map((p) => (
            <Link
              key={p.id}
              to={`/${to}/${airframeId}/${p.id}`}
              aria-current={p.id === part?.id ? "page" : undefined}
              className={TAB}
            >
              {p.name}
              {(p.damage ?? []).length > 0 && (
                <span className="ml-1 text-fail" title="damaged">
                  ✕<span className="sr-only"> damaged</span>
                </span>
              )}
            </Link>
          ))}
          <Link
            to={`/choose?into=${airframeId}`}
            className={`${TAB} min-w-11 justify-center`}
            aria-label="Add a part"
          >
            +
          </Link>
        </div>
        {!part && (
          <Link
            to={`/balance/${airframeId}`}
            aria-current={place === "balance" ? "page" : undefined}
            className={TAB}
          >
            Balance
          </Link>
        )}
        {!part && (
          <Link
            to={`/build/${airframeId}`}
            aria-current={place === "build" ? "page" : undefined}
            className={TAB}
          >
            Build sheet
          </Link>
        )}
        {!part && (
          <Link to={`/log/${airframeId}`} aria-current={place === "log" ? "page" : undefined} className={TAB}>
            Log
          </Link>
        )}
        {part && (
          <div className="flex">
            <Link
              to={`/bench/${airframeId}/${part.id}`}
              aria-current={place === "bench" ? "page" : undefined}
              className={TAB}
            >
              Bench
            </Link>
            <Link
              to={`/crash/${airframeId}/${part.id}`}
              aria-current={place === "crash" ? "page" : undefined}
              className={TAB}
            >
              Damage
            </Link>
            <Link to={`/crash/${airframeId}/${part.id}?tab=record`} className={TAB}>
              Log
            </Link>
          </div>
        )}
      </nav>
    </>
  );
}
