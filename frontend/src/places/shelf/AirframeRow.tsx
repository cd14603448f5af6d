import { Link } from "react-router";
import type { AirframeOut, Schemas } from "../../api/client";
import { show } from "../../forms/units";
import { AirframeDrawing } from "../../part/AirframeDrawing";
import { Graded } from "../../words/Graded";
import { TakeOff } from "./TakeOff";

const STATE_WORDS: Record<string, string> = { building: "In build", flying: "Flying", broken: "Broken" };

interface Props {
  airframe: AirframeOut;
  standing: Schemas["StandingOut"] | undefined;
  /** Whether its standing may still come. */
  checking: boolean;
  scale: number;
  onAdd: () => void;
}

/** Where the next thing is done. */
function wayTo(id: string, standing: Schemas["StandingOut"]): string {
  return standing.part_id && standing.at !== "whole"
    ? `/${standing.at}/${id}/${standing.part_id}`
    : `/airframe/${id}`;
}

/** An airframe on the shelf: what it is, a drawing with what is in it, the verdict of each part, the next thing due. */
export function AirframeRow({ airframe, standing, checking, scale, onAdd }: Props) {
  const { document, id, updated } = airframe;
  const parts = document.parts ?? [];
  return (
    <li className="grid grid-cols-[15rem_minmax(0,22rem)_minmax(0,1fr)] items-center gap-x-8 gap-y-3 border-b border-rule py-5 max-lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] max-sm:grid-cols-1">
      <div className="min-w-0 max-lg:col-span-full">
        <h2 className="text-title font-bold wrap-anywhere">
          <Link to={`/airframe/${id}`} className="hover:underline">
            {document.name}
          </Link>
        </h2>
        <p className="label-type mt-0.5">
          {STATE_WORDS[document.state]} · {show(document.all_up_mass_g, "mass", 4)} all up
        </p>
        {document.note && (
          <p className="mt-1.5 line-clamp-5 text-body leading-snug text-soft">{document.note}</p>
        )}
        <p className="mt-1.5 text-note text-soft">
          Last changed{" "}
          {new Date(updated).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
        </p>
        <p className="mt-0.5 flex flex-wrap items-center gap-x-4 text-small">
          <button
            type="button"
            className="inline-flex min-h-10 items-center text-pick underline"
            onClick={onAdd}
          >
            Add a part<span className="sr-only"> to {document.name}</span>
          </button>
          <a
            className="inline-flex min-h-10 items-center text-pick underline"
            href={`/api/airframes/${id}/file`}
          >
            Export file
          </a>
          <TakeOff id={id} name={document.name} />
        </p>
      </div>
      <Link to={`/airframe/${id}`} className="flex justify-center p-1 hover:bg-pick-wash" tabIndex={-1}>
        <AirframeDrawing document={document} scale={scale} />
      </Link>
      <div className="min-w-0">
        <ul>
          {parts.map((part) => {
            const told = standing?.parts.find((p) => p.part_id === part.id);
            return (
              <li key={part.id} className="border-b border-rule">
                <Link
                  to={told?.damaged ? `/crash/${id}/${part.id}` : `/bench/${id}/${part.id}`}
                  className="group grid min-h-11 grid-cols-[9.5rem_5.5rem_minmax(0,1fr)] items-center gap-x-3 px-2 py-1 hover:bg-pick-wash max-xl:grid-cols-[minmax(0,1fr)_auto]"
                  aria-label={`Open ${part.name} on the ${told?.damaged ? "Crash desk" : "Bench"}`}
                >
                  <span className="leading-tight font-semibold wrap-anywhere group-hover:underline">
                    {part.name}
                  </span>
                  <span>
                    {told ? (
                      <Graded grade={told.enough} />
                    ) : (
                      <span className="text-small text-soft">{checking ? "checking…" : "not computed"}</span>
                    )}
                  </span>
                  <span className="text-small leading-tight text-soft max-xl:col-span-full">
                    {told?.says}
                  </span>
                </Link>
              </li>
            );
          })}
        </ul>
        {standing?.due && (
          <p className="mt-2 px-2 leading-snug">
            <strong>Next:</strong>{" "}
            <Link to={wayTo(id, standing)} className="inline-flex min-h-10 items-center text-pick underline">
              {standing.due}
            </Link>
          </p>
        )}
      </div>
    </li>
  );
}
