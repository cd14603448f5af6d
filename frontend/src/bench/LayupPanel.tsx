import { DropdownMenu } from "radix-ui";
import type { Catalogue, Estimate, Layer, Part, Problem } from "../api/client";
import { freshId } from "../shared/ids";
import { plain } from "../shared/units";
import { lineName, moved, problemAt, withLayer } from "./edits";
import { LineEditor } from "./LineEditor";

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

const FACES: Record<string, string> = {
  upper: "upper face",
  lower: "lower face",
  both: "both faces",
  wrapped: "all round",
  pair: "top and bottom",
  middle: "in the middle",
};

function describe(layer: Layer, part: Part): string {
  const from = layer.start_mm;
  const to = layer.end_mm ?? part.span_mm;
  const run = from === 0 && to === part.span_mm ? "full length" : `${plain(from, 4)} to ${plain(to, 4)} mm`;
  const plies = layer.type !== "bar" && layer.plies > 1 ? `${layer.plies} plies, ` : "";
  if (layer.type === "bar") return `${FACES[layer.place]}, ${run}`;
  if (layer.type === "strip") return `${plies}${FACES[layer.face]}, ${plain(layer.width_mm)} mm wide, ${run}`;
  return `${plies}${FACES[layer.face]}, ${run}`;
}

const WHOLE = { name: "", enabled: true, start_mm: 0, end_mm: null };
const LINE = { ...WHOLE, root_percent: 30, tip_percent: 30 };
const BAR = { ...LINE, type: "bar" as const, on_edge: false, joined_at_root: true, stock: "carbon_rod_2" };

/** New lines as they come into the hand: a middling choice that fits most parts. */
const STARTERS: { label: string; make: (part: Part, id: string) => Layer }[] = [
  { label: "Pair of bars", make: (_, id) => ({ ...BAR, id, place: "pair", cover_mm: 0.5 }) },
  { label: "Single bar", make: (_, id) => ({ ...BAR, id, place: "middle", cover_mm: 0 }) },
  {
    label: "Strip of tape or cloth",
    make: (part, id) => ({
      ...LINE,
      type: "strip",
      id,
      skin: "filament_tape_uni",
      face: "both",
      plies: 1,
      width_mm: Math.min(25, Math.floor(part.tip_chord_mm / 3)),
    }),
  },
  {
    label: "Film or cloth over a face",
    make: (_, id) => ({ ...WHOLE, type: "film", id, skin: "lamfilm_38", face: "wrapped", plies: 1 }),
  },
];

/** What a line weighs, and its share of the bending stiffness. */
function Worth({ result }: { result: Estimate["lines"][number] | undefined }) {
  if (!result) return <span className="text-right">–</span>;
  const percent = 100 * result.bending_share;
  return (
    <span>
      <span className="figure-type block text-right leading-tight">{plain(result.grams.typ)} g</span>
      <span className="mt-0.5 grid grid-cols-[1fr_3.1rem] items-center">
        <span className="h-2.5 border-l border-ink bg-rule/45">
          <span
            className="block h-full bg-ink"
            style={{ width: `${Math.max(0, Math.min(100, percent))}%` }}
          />
        </span>
        <span className="text-right text-[0.85rem]">
          {percent < 0.95 ? percent.toFixed(1) : Math.round(percent)} %
        </span>
      </span>
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
        <span className="text-right">grams, bending</span>
      </div>
      <ol>
        <li className={`${COLUMNS} border-b border-rule px-4 py-2.5`}>
          <span />
          <span className="font-semibold leading-tight">
            {catalogue.foams.find((f) => f.key === part.foam)?.name ?? part.foam}
          </span>
          <Worth result={foam} />
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
