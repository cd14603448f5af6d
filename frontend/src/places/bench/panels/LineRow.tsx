import type { KeyboardEvent, PointerEvent, ReactNode } from "react";
import type { Catalogue, Estimate, Layer, Part, Problem, Schemas } from "../../../api/client";
import { freshId } from "../../../forms/ids";
import { CutSketch } from "../../../part/CutSketch";
import { duplicated, lineName, moved, problemAt, withLayer } from "../../../part/edits";
import { LineEditor } from "./LineEditor";
import { LineWorthBars } from "./LineWorthBars";
import { describe } from "./describe";

export const COLUMNS = "grid grid-cols-[2.5rem_minmax(0,1fr)_8.2rem] items-start gap-x-2";

/** A line that is dragged, and the place that it would go to. */
export interface Drag {
  id: string;
  to: number;
}

type Result = Estimate["lines"][number] | undefined;

/** What everything is built upon: the foam, or the ribs of a hollow part. */
export function CoreRow({ part, catalogue, result }: { part: Part; catalogue: Catalogue; result: Result }) {
  return (
    <li className={`${COLUMNS} border-b border-rule px-3 py-2.5`}>
      <span />
      <span className="leading-tight font-semibold">
        {part.foam
          ? (catalogue.foams.find((f) => f.key === part.foam)?.name ?? part.foam)
          : part.rib_sheet
            ? `Hollow, ribs of ${catalogue.sheets.find((s) => s.key === part.rib_sheet)?.name ?? part.rib_sheet}`
            : "Hollow: walls and spars"}
      </span>
      {part.foam || part.rib_sheet ? <LineWorthBars result={result} /> : <span />}
    </li>
  );
}

interface Props {
  layer: Layer;
  i: number;
  part: Part;
  catalogue: Catalogue;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  selected: string | null;
  setSelected: (id: string | null) => void;
  drag: Drag | null;
  setDrag: (drag: Drag | null) => void;
  /** The place in the order over which a pointer is. */
  over: (e: PointerEvent) => number;
  drop: () => void;
  result: Result;
  /** A cross-section with it; null where there is none. */
  cut: Schemas["Cut"] | null;
  /** What it looks like from the side, where it is a joint or a hinge. */
  sketch: ReactNode;
  remark: string | null | undefined;
}

/** One line of the lay-up: moved by its number, switched, opened to be changed. */
export function LineRow(props: Props) {
  const { layer, i, part, catalogue, problems, path, change, selected, setSelected } = props;
  const { drag, setDrag, over, drop, result } = props;
  const count = part.layers.length;
  const open = selected === layer.id;
  const problem = problemAt(problems, path);
  const on = layer.enabled !== false;
  const name = lineName(layer, catalogue);
  const remark = on ? props.remark : undefined;
  const keys = (e: KeyboardEvent) => {
    const way = { ArrowUp: -1 as const, ArrowDown: 1 as const }[e.key];
    if (!way) return;
    e.preventDefault();
    change((p) => moved(p, layer.id, way));
  };
  return (
    <li
      data-line={layer.id}
      className={`relative border-b border-rule ${open ? "bg-sheet shadow-[inset_4px_0_0_var(--pick)]" : ""} ${drag?.to === i ? "border-t-[3px] border-t-pick" : ""} ${drag?.to === count && i === count - 1 ? "border-b-[3px] border-b-pick" : ""}`}
    >
      <div className={`${COLUMNS} px-3 ${drag?.id === layer.id ? "opacity-50" : ""}`}>
        <span className="grid">
          <button
            type="button"
            aria-label={`Item ${i + 1}, ${name}: arrow keys change the build order`}
            className="grid size-10 cursor-grab touch-none place-items-center"
            onKeyDown={keys}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              setDrag({ id: layer.id, to: i });
            }}
            onPointerMove={(e) => drag && setDrag({ id: layer.id, to: over(e) })}
            onPointerUp={drop}
            onPointerCancel={() => setDrag(null)}
          >
            <span
              className={`label-type grid size-6 place-items-center rounded-full border text-note ${problem ? "border-fail text-fail" : "border-ink"}`}
            >
              {i + 1}
            </span>
          </button>
          <label className="grid size-10 place-items-center" title="Include or leave out">
            <input
              type="checkbox"
              className="size-5 accent-(--pick)"
              checked={on}
              aria-label={`Include ${name}`}
              onChange={(e) =>
                change((p) => withLayer(p, layer.id, (l) => ({ ...l, enabled: e.target.checked })))
              }
            />
          </label>
        </span>
        <button
          type="button"
          aria-expanded={open}
          onClick={() => setSelected(open ? null : layer.id)}
          className={`col-span-2 grid min-h-20 grid-cols-subgrid items-start gap-x-2 py-2 text-left hover:bg-pick-wash ${on ? "" : "text-soft"}`}
        >
          <span>
            <span className={`block leading-tight font-semibold ${on ? "" : "line-through"}`}>{name}</span>
            <span className="block text-small leading-tight text-soft">
              {on ? describe(layer, part) : "left out"}
            </span>
            {on && props.cut && (
              <span className="mt-1.5 block">
                <CutSketch cut={props.cut} only={layer.id} width={130} height={30} />
              </span>
            )}
            {layer.note && <span className="mt-0.5 block text-small leading-tight italic">{layer.note}</span>}
          </span>
          <LineWorthBars result={on ? result : undefined} />
        </button>
      </div>
      {remark && (
        <p className="mx-3 mb-2 border-l-[3px] border-fail pl-2 text-small leading-snug">{remark}</p>
      )}
      {problem && !open && <p className="px-4 pb-2 text-small text-fail">{problem.message}</p>}
      {open && props.sketch && <div className="px-4">{props.sketch}</div>}
      {open && (
        <LineEditor
          {...{ layer, part, catalogue, problems }}
          path={path}
          change={(next) => change((p) => withLayer(p, layer.id, () => next))}
          duplicate={() => {
            const copy = freshId(
              "line",
              part.layers.map((l) => l.id),
            );
            change((p) => duplicated(p, layer.id, copy));
            setSelected(copy);
          }}
        />
      )}
    </li>
  );
}
