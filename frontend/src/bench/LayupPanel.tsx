import { DropdownMenu } from "radix-ui";
import type { Catalogue, Estimate, Layer, Part, Problem } from "../api/client";
import { freshId } from "../shared/ids";
import { plain } from "../shared/units";
import { lineName, moved, problemAt, withLayer } from "./edits";
import { LineEditor } from "./LineEditor";
import { describe, STARTERS } from "./starters";

interface Props {
  part: Part;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  catalogue: Catalogue;
  estimate: Estimate | null;
  selected: string | null;
  setSelected: (id: string | null) => void;
}

/** A share as a bar and a figure; what it is a share of is told by its letter. */
function Share({ of, letter, value }: { of: string; letter: string; value: number }) {
  const percent = 100 * value;
  return (
    <span className="mt-0.5 grid grid-cols-[1rem_1fr_2.9rem] items-center gap-x-1">
      <span className="text-[0.75rem] text-soft" aria-label={of}>
        {letter}
      </span>
      <span className="h-2 border-l border-ink bg-rule/45">
        <span className="block h-full bg-ink" style={{ width: `${Math.max(0, Math.min(100, percent))}%` }} />
      </span>
      <span className="text-right text-[0.82rem]">
        {percent < 0.95 ? percent.toFixed(1) : Math.round(percent)} %
      </span>
    </span>
  );
}

/** What a line weighs, and its shares of the stiffness in bending and in twist. */
function Worth({ result }: { result: Estimate["lines"][number] | undefined }) {
  if (!result) return <span className="text-right">–</span>;
  return (
    <span>
      <span className="figure-type block text-right leading-tight">{plain(result.grams.typ)} g</span>
      <Share of="bending" letter="B" value={result.bending_share} />
      <Share of="twist" letter="T" value={result.torsion_share} />
    </span>
  );
}

const COLUMNS = "grid grid-cols-[1.5rem_minmax(0,1fr)_6.4rem] items-start gap-x-3";

/** The lay-up from the foam outwards: what each line weighs and what it gives. */
export function LayupPanel({
  part,
  problems,
  path,
  change,
  catalogue,
  estimate,
  selected,
  setSelected,
}: Props) {
  const layers = part.layers;
  const resultOf = (id: string) => estimate?.lines.find((l) => l.id === id);
  const foam = resultOf("foam");
  const add = (make: (part: Part, id: string) => Layer) => {
    const id = freshId(
      "line",
      layers.map((l) => l.id),
    );
    change((p) => ({ ...p, layers: [...p.layers, make(p, id)] }));
    setSelected(id);
  };
  return (
    <div className="pb-6">
      <div className={`${COLUMNS} label-type border-b border-ink px-4 py-2 text-[0.8rem] text-soft`}>
        <span />
        <span>From the foam outwards</span>
        <span className="text-right">
          grams
          <span className="block text-[0.72rem]">B bending, T twist</span>
        </span>
      </div>
      <ol>
        <li className={`${COLUMNS} border-b border-rule px-4 py-2.5`}>
          <span />
          <span className="font-semibold leading-tight">
            {part.foam
              ? (catalogue.foams.find((f) => f.key === part.foam)?.name ?? part.foam)
              : "Hollow: walls and bars"}
          </span>
          {part.foam ? <Worth result={foam} /> : <span />}
        </li>
        {layers.map((layer, i) => {
          const result = resultOf(layer.id);
          const open = selected === layer.id;
          const problem = problemAt(problems, `${path}.layers[${i}]`);
          const on = layer.enabled !== false;
          return (
            <li
              key={layer.id}
              className={`border-b border-rule ${open ? "bg-sheet shadow-[inset_4px_0_0_var(--pick)]" : ""}`}
            >
              <button
                type="button"
                aria-expanded={open}
                onClick={() => setSelected(open ? null : layer.id)}
                className={`${COLUMNS} min-h-14 w-full px-4 py-2.5 text-left hover:bg-pick-wash ${on ? "" : "opacity-55"}`}
              >
                <span
                  className={`label-type mt-0.5 grid size-5 place-items-center rounded-full border text-[0.75rem] ${problem ? "border-fail text-fail" : "border-ink"}`}
                >
                  {i + 1}
                </span>
                <span>
                  <span className="block leading-tight font-semibold">{lineName(layer, catalogue)}</span>
                  <span className="block text-[0.85rem] leading-tight text-soft">
                    {on ? describe(layer, part) : "switched off"}
                  </span>
                </span>
                <Worth result={on ? result : undefined} />
              </button>
              {problem && !open && <p className="px-4 pb-2 text-[0.85rem] text-fail">{problem.message}</p>}
              {open && (
                <LineEditor
                  {...{ layer, part, catalogue, problems }}
                  path={`${path}.layers[${i}]`}
                  change={(next) => change((p) => withLayer(p, layer.id, () => next))}
                  move={(by) => change((p) => moved(p, layer.id, by))}
                  first={i === 0}
                  last={i === layers.length - 1}
                />
              )}
            </li>
          );
        })}
      </ol>
      <div className="px-4 pt-4">
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="key-button w-full">Add a line</DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="start"
              sideOffset={4}
              className="z-20 w-(--radix-dropdown-menu-trigger-width) border border-ink bg-raised"
            >
              {STARTERS.map((s) => (
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
      {estimate && (
        <details className="px-4 pt-5 text-[0.85rem] leading-snug text-soft">
          <summary className="label-type min-h-8 cursor-pointer">What this estimate assumes</summary>
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
