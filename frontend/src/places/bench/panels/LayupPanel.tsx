import { DropdownMenu } from "radix-ui";
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { api, type Catalogue, type Estimate, type Layer, type Part, type Problem } from "../../../api/client";
import { freshId } from "../../../forms/ids";
import { Word } from "../../../words/Word";
import {
  duplicated,
  freePercent,
  lineName,
  MAX_LINES,
  moved,
  movedTo,
  problemAt,
  withLayer,
} from "../../../part/edits";
import { GramsPanel } from "./GramsPanel";
import { LineEditor } from "./LineEditor";
import { LineWorthBars } from "./LineWorthBars";
import { describe, STARTERS } from "./starters";
import { AT_LEISURE, useStudy, type Subject } from "../../../part/useStudy";

interface Props {
  part: Part;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  catalogue: Catalogue;
  estimate: Estimate | null;
  subject: Subject;
  selected: string | null;
  setSelected: (id: string | null) => void;
}

const COLUMNS = "grid grid-cols-[2.5rem_minmax(0,1fr)_6.6rem] items-start gap-x-2";

/** The lay-up from the foam outwards: what each line weighs, what it gives, and whether it earns its grams. */
export function LayupPanel(props: Props) {
  const { part, problems, path, change, catalogue, estimate, subject, selected, setSelected } = props;
  const layers = part.layers;
  const worth = useStudy(
    "worth",
    subject,
    (body) => api.POST("/api/studies/worth", { body }),
    estimate !== null && layers.length > 0,
    AT_LEISURE,
  );
  const list = useRef<HTMLOListElement>(null);
  const [drag, setDrag] = useState<{ id: string; to: number } | null>(null);
  const resultOf = (id: string) => estimate?.lines.find((l) => l.id === id);
  const ids = layers.map((l) => l.id);
  const add = (make: (part: Part, id: string) => Layer) => {
    const id = freshId("line", ids);
    change((p) => {
      const line = make(p, id);
      const free = freePercent(p);
      const beside = line.type === "bar" ? { root_percent: free, tip_percent: free } : {};
      return { ...p, layers: [...p.layers, { ...line, ...beside }] };
    });
    setSelected(id);
  };
  const over = (e: PointerEvent) => {
    const rows = [...(list.current?.querySelectorAll<HTMLElement>("[data-line]") ?? [])];
    const at = rows.findIndex((r) => {
      const box = r.getBoundingClientRect();
      return e.clientY < box.top + box.height / 2;
    });
    return at < 0 ? rows.length : at;
  };
  const drop = () => {
    if (drag) {
      const from = ids.indexOf(drag.id);
      change((p) => movedTo(p, drag.id, drag.to > from ? drag.to - 1 : drag.to));
    }
    setDrag(null);
  };
  const keys = (id: string) => (e: KeyboardEvent) => {
    const way = { ArrowUp: -1 as const, ArrowDown: 1 as const }[e.key];
    if (!way) return;
    e.preventDefault();
    change((p) => moved(p, id, way));
  };
  return (
    <div className="pb-6">
      <div className={`${COLUMNS} label-type border-b border-ink px-3 py-2 text-[0.8rem] text-soft`}>
        <span />
        <span>From the foam outwards</span>
        <span className="text-right">
          grams, <Word k="shares">shares</Word>
        </span>
      </div>
      <ol ref={list} aria-label="Lay-up">
        <li className={`${COLUMNS} border-b border-rule px-3 py-2.5`}>
          <span />
          <span className="leading-tight font-semibold">
            {part.foam
              ? (catalogue.foams.find((f) => f.key === part.foam)?.name ?? part.foam)
              : part.rib_sheet
                ? `Hollow, ribs of ${catalogue.sheets.find((s) => s.key === part.rib_sheet)?.name ?? part.rib_sheet}`
                : "Hollow: walls and bars"}
          </span>
          {part.foam || part.rib_sheet ? (
            <LineWorthBars result={resultOf(part.foam ? "foam" : "ribs")} />
          ) : (
            <span />
          )}
        </li>
        {layers.map((layer, i) => {
          const open = selected === layer.id;
          const problem = problemAt(problems, `${path}.layers[${i}]`);
          const on = layer.enabled !== false;
          const name = lineName(layer, catalogue);
          const remark = on ? worth.data?.find((w) => w.line_id === layer.id)?.remark : undefined;
          return (
            <li
              key={layer.id}
              data-line={layer.id}
              className={`relative border-b border-rule ${open ? "bg-sheet shadow-[inset_4px_0_0_var(--pick)]" : ""} ${drag?.to === i ? "border-t-[3px] border-t-pick" : ""} ${drag?.to === layers.length && i === layers.length - 1 ? "border-b-[3px] border-b-pick" : ""}`}
            >
              <div className={`${COLUMNS} px-3 ${drag?.id === layer.id ? "opacity-50" : ""}`}>
                <span className="grid">
                  <button
                    type="button"
                    aria-label={`Line ${i + 1}, ${name}: move in the order of building with the arrow keys`}
                    className="grid size-10 cursor-grab touch-none place-items-center"
                    onKeyDown={keys(layer.id)}
                    onPointerDown={(e) => {
                      e.currentTarget.setPointerCapture(e.pointerId);
                      setDrag({ id: layer.id, to: i });
                    }}
                    onPointerMove={(e) => drag && setDrag({ id: layer.id, to: over(e) })}
                    onPointerUp={drop}
                    onPointerCancel={() => setDrag(null)}
                  >
                    <span
                      className={`label-type grid size-6 place-items-center rounded-full border text-[0.8rem] ${problem ? "border-fail text-fail" : "border-ink"}`}
                    >
                      {i + 1}
                    </span>
                  </button>
                  <label className="grid size-10 place-items-center" title="on or off">
                    <input
                      type="checkbox"
                      className="size-5 accent-(--pick)"
                      checked={on}
                      aria-label={`${name} is in`}
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
                    <span className={`block leading-tight font-semibold ${on ? "" : "line-through"}`}>
                      {name}
                    </span>
                    <span className="block text-[0.85rem] leading-tight text-soft">
                      {on ? describe(layer, part) : "switched off"}
                    </span>
                    {layer.note && (
                      <span className="mt-0.5 block text-[0.85rem] leading-tight italic">{layer.note}</span>
                    )}
                  </span>
                  <LineWorthBars result={on ? resultOf(layer.id) : undefined} />
                </button>
              </div>
              {remark && (
                <p className="mx-3 mb-2 border-l-[3px] border-fail pl-2 text-[0.85rem] leading-snug">
                  {remark}
                </p>
              )}
              {problem && !open && <p className="px-4 pb-2 text-[0.85rem] text-fail">{problem.message}</p>}
              {open && (
                <LineEditor
                  {...{ layer, part, catalogue, problems }}
                  path={`${path}.layers[${i}]`}
                  change={(next) => change((p) => withLayer(p, layer.id, () => next))}
                  duplicate={() => {
                    const copy = freshId("line", ids);
                    change((p) => duplicated(p, layer.id, copy));
                    setSelected(copy);
                  }}
                />
              )}
            </li>
          );
        })}
      </ol>
      <div className="px-4 pt-4">
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="key-button w-full" disabled={layers.length >= MAX_LINES}>
            Add a line
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="start"
              sideOffset={4}
              className="z-20 max-h-(--radix-dropdown-menu-content-available-height) w-(--radix-dropdown-menu-trigger-width) overflow-y-auto border border-ink bg-raised"
            >
              {STARTERS.filter((s) => s.suits?.(part) ?? true).map((s) => (
                <DropdownMenu.Item
                  key={s.label}
                  onSelect={() => add(s.make)}
                  className="flex min-h-11 cursor-pointer items-center px-4 outline-none data-highlighted:bg-pick-wash"
                >
                  {s.label}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
      {worth.data && worth.data.length > 0 && (
        <GramsPanel worth={worth.data} {...{ part, catalogue, change }} waiting={worth.isFetching} />
      )}
      {estimate && (
        <details className="px-4 pt-5 text-[0.85rem] leading-snug text-soft">
          <summary className="label-type min-h-10 cursor-pointer">What this estimate assumes</summary>
          <ul className="mt-1 grid gap-1.5">
            {estimate.assumptions.map((a) => (
              <li key={a}>{a}</li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}
