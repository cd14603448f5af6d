import { useId, useRef, type Ref } from "react";
import type { Schemas } from "../../../api/client";
import { saveSvg } from "../../../charts/save";
import { useWidth } from "../../../charts/useWidth";
import { Word } from "../../../words/Word";
import { bare, plain, show, unitOf } from "../../../forms/units";
import { Table } from "../../../words/Table";

type Piece = Schemas["Piece"];

/** How each kind of work is drawn: told apart by its line, not by colour. */
interface Look {
  words: string;
  dash?: string;
  width: number;
  tone: string;
  /** It takes away something over its width. */
  band?: boolean;
}
const LINES: Record<string, Look> = {
  cut: { words: "cut", width: 1.6, tone: "var(--ink)" },
  score: { words: "score the inner paper", dash: "10 3", width: 1.4, tone: "var(--ink)" },
  crease: { words: "crease", dash: "2 3", width: 1.6, tone: "var(--ink)" },
  foam_out: { words: "remove foam down to the outer paper", width: 1, tone: "var(--pick)", band: true },
  bevel: { words: "bevel", dash: "10 3 2 3", width: 1.4, tone: "var(--pick)", band: true },
  mark: { words: "mark, do not cut", dash: "1 5", width: 1.2, tone: "var(--soft)" },
};

/** The folded part laid flat, with everything that is worked on the sheet before it is folded. */
export function FlatPattern({ pattern, name }: { pattern: Schemas["Pattern"]; name: string }) {
  const ends = [
    ["root", pattern.root],
    ["tip", pattern.tip],
  ] as const;
  return (
    <>
      <h2 className="border-b border-ink text-lead font-semibold">
        <Word k="flat_pattern">Flat pattern</Word>
      </h2>
      {pattern.pieces.map((p) => (
        <PieceDrawing key={p.name} piece={p} name={name} />
      ))}
      {pattern.root && (
        <Table
          caption="Folded section"
          heads={[
            <>Folded section, {unitOf("length")}</>,
            "nose radius",
            "fold angle",
            "below",
            "nose",
            "above",
            "inner spar",
            "tail",
          ]}
          className="mt-2"
        >
          {ends.map(
            ([where, e]) =>
              e && (
                <tr key={where} className="border-b border-rule">
                  <th scope="row" className="py-1 text-left font-semibold">
                    {where}
                  </th>
                  {[
                    bare(e.nose_radius_mm, "length"),
                    show(e.turn_deg, "angle"),
                    bare(e.lower_mm, "length", 4),
                    bare(e.nose_mm, "length"),
                    bare(e.upper_mm, "length", 4),
                    bare(e.spar_mm, "length"),
                    bare(e.tail_mm, "length"),
                  ].map((text, i) => (
                    <td key={i} className="figure-type pl-3 py-1 text-right last:pr-0">
                      {text}
                    </td>
                  ))}
                </tr>
              ),
          )}
        </Table>
      )}
      <ul className="mt-2 grid gap-1 text-body leading-snug">
        {[pattern.alike, ...pattern.notes].map((text) => (
          <li key={text} className="border-l-[3px] border-rule pl-3">
            {text}
          </li>
        ))}
        {pattern.twisted_mm > 0.1 && (
          <li className="border-l-[3px] border-rule pl-3">
            Its panels are slightly twisted, by up to {show(pattern.twisted_mm, "length", 2)}; the board
            flexes enough to follow.
          </li>
        )}
      </ul>
      <details className="mb-5 border-b border-rule">
        <summary className="min-h-10 cursor-pointer py-2 font-semibold">Folds</summary>
        <ul className="mb-2 text-body">
          {pattern.folds.map((f) => (
            <li key={f.name} className="flex justify-between gap-4 border-b border-rule py-1">
              <span>{f.name}</span>
              <span className="text-right">
                remove foam over <span className="figure-type">{show(f.strip_mm, "length", 3)}</span>
                {f.bevel_deg > 0 && `, bevel ${plain(f.bevel_deg)}° each side`}
              </span>
            </li>
          ))}
        </ul>
      </details>
    </>
  );
}

/** Ribs or formers, each as it is cut; those of a `body` are seen from behind. */
export function Formers({ pieces, name, body }: { pieces: Piece[]; name: string; body: boolean }) {
  const all = pieces.reduce((sum, p) => sum + p.count, 0);
  return (
    <details className="mb-5 border-b border-rule">
      <summary className="min-h-10 cursor-pointer py-2 text-lead font-semibold">
        Formers: {all} to cut, drawn under the skin
      </summary>
      {pieces.map((p) => (
        <PieceDrawing
          key={p.name}
          piece={p}
          name={name}
          ends={body ? ["left", "right"] : ["front", "rear"]}
        />
      ))}
    </details>
  );
}

interface PieceProps {
  piece: Piece;
  name: string;
  /** What lies at its left and at its right. */
  ends?: readonly [string, string];
}

function PieceDrawing({ piece, name, ends = ["root", "tip"] }: PieceProps) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const clip = useId();
  return (
    <figure className="mt-2 border-b border-rule pb-3">
      <figcaption className="flex flex-wrap items-baseline gap-x-4 text-body">
        <strong>
          {piece.count} × {piece.name}
        </strong>
        <span>
          {bare(piece.length_mm, "length", 4)} × {show(piece.width_mm, "length", 4)}
        </span>
        <span className={piece.fits ? "text-soft" : "text-fail"}>
          {piece.fits ? "✓" : "✕"} {piece.says}
        </span>
        <button
          type="button"
          className="ml-auto min-h-10 underline decoration-dotted underline-offset-3"
          onClick={() =>
            svg.current &&
            saveSvg(svg.current, `${name} ${piece.name}`.toLowerCase().replaceAll(/[^a-z0-9]+/g, "-"))
          }
        >
          Save as SVG<span className="sr-only"> {piece.name}</span>
        </button>
      </figcaption>
      <div className="grid grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)] items-start gap-x-5 max-md:grid-cols-1">
        <div ref={ref} className="min-w-0">
          {width > 0 && <Flat {...{ piece, width, svg, clip, ends }} />}
        </div>
        <ol className="text-small leading-snug" aria-label={`Cut and fold lines of ${piece.name}`}>
          {piece.lines.map((l, i) => (
            <li
              key={i}
              className="grid grid-cols-[1.4rem_2.2rem_minmax(0,1fr)] items-start gap-x-2 border-b border-rule py-1"
            >
              <span className="figure-type">{i + 1}</span>
              <Sample kind={l.kind} />
              <span>
                <span className="font-semibold">{(LINES[l.kind] ?? LINES.mark!).words}</span>
                <span className="block text-soft">{l.says}</span>
              </span>
            </li>
          ))}
        </ol>
      </div>
    </figure>
  );
}

function Sample({ kind }: { kind: string }) {
  const look = LINES[kind] ?? LINES.mark!;
  return (
    <svg width={34} height={10} aria-hidden="true" className="mt-1">
      {look.band && <rect width={34} height={10} fill={look.tone} fillOpacity={0.2} />}
      <path d="M0 5H34" stroke={look.tone} strokeWidth={look.width} strokeDasharray={look.dash} />
    </svg>
  );
}

interface FlatProps {
  piece: Piece;
  width: number;
  svg: Ref<SVGSVGElement>;
  clip: string;
  ends: readonly [string, string];
}

/** The piece lying: root at the left as on the drawing sheet, so that x of the sheet runs down. */
function Flat({ piece, width, svg, clip, ends }: FlatProps) {
  const all = [...piece.outline, ...piece.lines.flatMap((l) => l.points)];
  const span = (k: 0 | 1) => [Math.min(...all.map((p) => p[k])), Math.max(...all.map((p) => p[k]))] as const;
  const [[x0, x1], [y0, y1]] = [span(0), span(1)];
  const scale = Math.max(0.01, Math.min((width - 44) / (y1 - y0), 300 / (x1 - x0)));
  const height = (x1 - x0) * scale + 34;
  const px = (y: number) => 6 + (y - y0) * scale;
  const py = (x: number) => 10 + (x - x0) * scale;
  const path = (points: [number, number][]) =>
    points.map((p) => `${px(p[1]).toFixed(1)},${py(p[0]).toFixed(1)}`).join(" ");
  const onEdge = (p: [number, number]) => piece.outline.some((o) => o[0] === p[0] && o[1] === p[1]);
  const heights = spreadOut(piece.lines.map((l) => py(l.points.at(-1)![0])));
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      className="block"
      role="img"
      aria-label={`${piece.name}: ${piece.lines.map((l) => l.says).join("; ")}`}
    >
      <clipPath id={clip}>
        <polygon points={path(piece.outline)} />
      </clipPath>
      <polygon points={path(piece.outline)} fill="var(--raised)" stroke="var(--ink)" strokeWidth={1.6} />
      {piece.lines.map((l, i) => {
        const look = LINES[l.kind] ?? LINES.mark!;
        const end = l.points.at(-1)!;
        const wide = l.width_mm * scale * (l.kind === "bevel" && onEdge(l.points[0]!) ? 2 : 1);
        return (
          <g key={i}>
            <title>{l.says}</title>
            {look.band && (
              <polyline
                clipPath={`url(#${clip})`}
                points={path(l.points)}
                fill="none"
                stroke={look.tone}
                strokeOpacity={0.2}
                strokeWidth={Math.max(3, wide)}
              />
            )}
            <polyline
              points={path(l.points)}
              fill="none"
              stroke={look.tone}
              strokeWidth={look.width}
              strokeDasharray={look.dash}
            />
            <path
              d={`M${px(end[1]) + 2} ${py(end[0])}L${px(y1) + 12} ${heights[i]}`}
              stroke="var(--hair)"
              fill="none"
            />
            <text x={px(y1) + 14} y={heights[i]! + 4} fontSize={12}>
              {i + 1}
            </text>
          </g>
        );
      })}
      <text x={px(y0)} y={height - 4} fontSize={12}>
        {ends[0]}
      </text>
      <text x={px(y1)} y={height - 4} fontSize={12} textAnchor="end">
        {ends[1]}
      </text>
    </svg>
  );
}

/** Heights for the numbers, kept in order and apart. */
function spreadOut(wanted: number[]): number[] {
  const order = wanted.map((v, i) => [v, i] as const).sort((a, b) => a[0] - b[0]);
  const out: number[] = [];
  let last = -Infinity;
  for (const [v, i] of order) {
    last = Math.max(v, last + 14);
    out[i] = last;
  }
  return out;
}
