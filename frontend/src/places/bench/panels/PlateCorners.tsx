import { Dialog } from "radix-ui";
import { useId, useState } from "react";
import { api, problemsOf, type Part, type Schemas } from "../../../api/client";
import { bare, parseQuantity, unitOf } from "../../../forms/units";
import { withSpan } from "../../../part/edits";

interface Props {
  part: Part;
  change: (edit: (part: Part) => Part) => void;
}

type Corner = [number, number];

/** Corners typed line by line, and the first line that is none. */
export function readCorners(text: string): { corners: Corner[]; wrong: number | null } {
  const corners: Corner[] = [];
  for (const [n, line] of text.split("\n").entries()) {
    if (!line.trim()) continue;
    const words = line.includes(";") ? line.split(";") : line.trim().split(/,\s+|\s+/);
    const read = words.filter((w) => w.trim()).map((w) => parseQuantity(w, "length"));
    const [x, y] = read;
    if (read.length !== 2 || x == null || y == null) return { corners, wrong: n + 1 };
    corners.push([x, y]);
  }
  return { corners, wrong: null };
}

/** The part with another outline: its length, its trapezoid, and what is cut from it. */
export function withOutline(part: Part, found: Schemas["PlateOutline"]): Part {
  const { cuts, span_mm, ...trapezoid } = found;
  const long = withSpan(part, span_mm);
  const kept = long.layers.filter((l) => !(l.type === "cut" && l.outline));
  return { ...long, ...trapezoid, layers: [...kept, ...cuts] };
}

/** Opens the corners round a plate as text, to be typed or pasted anew. */
export function PlateCorners({ part, change }: Props) {
  const [text, setText] = useState<string | null>(null);
  const start = async () => {
    const { data } = await api.POST("/api/studies/plate-corners", { body: { part } });
    const told = (at: number) => bare(at, "length", 6);
    setText((data?.corners ?? []).map(([x = 0, y = 0]) => `${told(x)}; ${told(y)}`).join("\n"));
  };
  return (
    <div className="col-span-full">
      <button type="button" className="key-button w-full" onClick={() => void start()}>
        Outline by its corners
      </button>
      {text !== null && <Corners {...{ part, change, text, setText }} close={() => setText(null)} />}
    </div>
  );
}

interface CornersProps extends Props {
  text: string;
  setText: (text: string) => void;
  close: () => void;
}

function Corners({ part, change, text, setText, close }: CornersProps) {
  const id = useId();
  const [trouble, setTrouble] = useState<string[]>([]);
  const { corners, wrong } = readCorners(text);
  const unit = unitOf("length");
  const use = async () => {
    const { data, error } = await api.POST("/api/studies/plate-outline", { body: { part, corners } });
    if (!data) {
      setTrouble(problemsOf(error).map((p) => `The outline ${p.message}.`));
      return;
    }
    change((p) => withOutline(p, data));
    close();
  };
  const told = wrong === null ? trouble : [`Line ${wrong} is not two lengths, such as 120; 40.`];
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/45" />
        <Dialog.Content className="fixed top-1/2 left-1/2 z-30 max-h-[92dvh] w-[min(46rem,96vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-sheet p-7">
          <Dialog.Title className="text-title font-bold">Outline by its corners</Dialog.Title>
          <Dialog.Description className="mt-1 text-soft">
            One corner a line, in {unit}, all the way round: how far aft of the leading edge, then how far out
            from the root. Notches and clipped corners become lines of the lay-up, cut out of everything on
            the part.
          </Dialog.Description>
          <div className="mt-5 grid gap-6 sm:grid-cols-[14rem_minmax(0,1fr)]">
            <div className="grid content-start gap-1">
              <label htmlFor={id} className="label-type text-small">
                Aft of the leading edge, out from the root
              </label>
              <textarea
                id={id}
                rows={12}
                spellCheck={false}
                className="field-box figure-type resize-y py-2"
                value={text}
                aria-invalid={told.length ? true : undefined}
                aria-describedby={`${id}-told`}
                onChange={(e) => {
                  setText(e.target.value);
                  setTrouble([]);
                }}
              />
            </div>
            <Preview corners={corners} />
          </div>
          <p id={`${id}-told`} role={told.length ? "alert" : undefined} className="mt-3 min-h-5 text-fail">
            {told.join(" ")}
          </p>
          <div className="mt-2 flex gap-3">
            <button
              type="button"
              className="key-button"
              disabled={wrong !== null || corners.length < 3}
              onClick={() => void use()}
            >
              Use this outline
            </button>
            <Dialog.Close className="key-button border-transparent">Cancel</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** The outline as it is typed, root at the left. */
function Preview({ corners }: { corners: Corner[] }) {
  if (corners.length < 2) return <p className="text-soft">Its drawing appears here.</p>;
  const xs = corners.map((c) => c[0]);
  const ys = corners.map((c) => c[1]);
  const [left, top] = [Math.min(...ys), Math.min(...xs)];
  const [wide, high] = [Math.max(...ys) - left || 1, Math.max(...xs) - top || 1];
  const room = 0.06 * Math.max(wide, high);
  return (
    <svg
      role="img"
      aria-label={`Outline of ${corners.length} corners`}
      viewBox={`${left - room} ${top - room} ${wide + 2 * room} ${high + 2 * room}`}
      className="max-h-80 w-full"
    >
      <polygon
        points={corners.map(([x, y]) => `${y},${x}`).join(" ")}
        className="fill-(--foam) stroke-ink"
        strokeWidth={1.5}
        vectorEffect="non-scaling-stroke"
      />
      {corners.map(([x, y], n) => (
        <circle key={n} cx={y} cy={x} r={room / 5} className="fill-ink" />
      ))}
    </svg>
  );
}
