import { useEffect, useState } from "react";
import { createPortal } from "react-dom";
import { Choice, Tick } from "../../../forms/fields";
import { Modal } from "../../../forms/Modal";
import { OVERLAP, PAPERS, pagesOf, STRIP, type Pages, type Paper, type Template } from "./trueScale";

const BAR = 100;

interface Props {
  part: string;
  templates: Template[];
  onClose: () => void;
}

/** Dialog: templates printed as large as they are, on as many pages as it takes, each with a bar to check it by. */
export function TrueScale({ part, templates, onClose }: Props) {
  const [paper, setPaper] = useState<Paper>("A4");
  const [left, setLeft] = useState<Set<number>>(new Set());
  const [printing, setPrinting] = useState(false);
  const laid = templates.map((t) => pagesOf(t, paper));
  const chosen = laid.filter((_, i) => !left.has(i));
  const count = (p: Pages) => p.columns * p.rows;
  const worked = chosen.filter((p) => p.template.lines.some((l) => l.says));
  const sum = chosen.reduce((n, p) => n + count(p), 0) + (worked.length ? 1 : 0);
  useEffect(() => {
    if (!printing) return;
    const done = () => setPrinting(false);
    window.addEventListener("afterprint", done);
    window.print();
    return () => window.removeEventListener("afterprint", done);
  }, [printing]);
  return (
    <Modal
      title="Print at true scale"
      says="Print at 100 %, without fitting to the page. Then measure the bar on each page before you cut: it must be 100 mm long."
      onClose={onClose}
    >
      <div className="mt-4 grid gap-3">
        <Choice
          label="Paper"
          value={paper}
          options={(Object.keys(PAPERS) as Paper[]).map((p) => ({ value: p, label: p }))}
          onChange={setPaper}
        />
        <fieldset>
          <legend className="label-type w-full border-b border-ink">Templates</legend>
          {worked.length > 0 && (
            <p className="text-small text-soft">The numbered lines are listed on a page of their own.</p>
          )}
          {laid.map((p, i) => (
            <Tick
              key={i}
              label={`${templates[i]!.name}: ${count(p)} page${count(p) > 1 ? "s" : ""}`}
              checked={!left.has(i)}
              onChange={(on) => setLeft(new Set(on ? [...left].filter((k) => k !== i) : [...left, i]))}
            />
          ))}
        </fieldset>
        <div className="flex justify-between">
          <button type="button" className="key-main" disabled={sum === 0} onClick={() => setPrinting(true)}>
            Print {sum} page{sum === 1 ? "" : "s"}
          </button>
          <button type="button" className="key-button" onClick={onClose}>
            Cancel
          </button>
        </div>
      </div>
      {printing && createPortal(<Sheets {...{ part, paper, chosen, worked }} />, document.body)}
    </Modal>
  );
}

interface SheetsProps {
  part: string;
  paper: Paper;
  chosen: Pages[];
  /** Those with numbered lines. */
  worked: Pages[];
}

function Sheets({ part, paper, chosen, worked }: SheetsProps) {
  return (
    <div className="print-sheets" aria-hidden="true">
      <style>{`@page { size: ${paper} portrait; margin: 10mm }`}</style>
      {chosen.flatMap((pages, i) =>
        Array.from({ length: pages.columns * pages.rows }, (_, n) => (
          <Page key={`${i}-${n}`} {...{ part, pages, n }} />
        )),
      )}
      {worked.map(({ template }) => (
        <section key={template.name} className="text-small">
          <h2 className="mt-4 font-bold">
            {part}: {template.name}
          </h2>
          <ol className="list-decimal pl-6">
            {template.lines.map((l, i) => (
              <li key={i}>{l.says}</li>
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}

const path = (points: [number, number][], close: boolean) =>
  points.map(([x, y], i) => `${i ? "L" : "M"}${x.toFixed(2)} ${y.toFixed(2)}`).join("") + (close ? "Z" : "");

/** One page; its user units are millimetres. */
function Page({ part, pages, n }: { part: string; pages: Pages; n: number }) {
  const { template, width, height, columns, rows, x0, y0 } = pages;
  const [column, row] = [n % columns, Math.floor(n / columns)];
  const [x, y] = [x0 + column * (width - OVERLAP), y0 + row * (height - OVERLAP)];
  const clip = `page-${template.name}-${n}`.replaceAll(/[^\w-]/g, "");
  const [joinsLeft, joinsTop] = [column > 0, row > 0];
  return (
    <svg
      className="true-scale"
      width={`${width}mm`}
      height={`${height + STRIP}mm`}
      viewBox={`0 0 ${width} ${height + STRIP}`}
    >
      <clipPath id={clip}>
        <rect width={width} height={height} />
      </clipPath>
      <g clipPath={`url(#${clip})`} fill="none" stroke="#000" strokeWidth={0.3}>
        <g transform={`translate(${-x} ${-y})`}>
          <path d={path(template.outline, true)} />
          {template.lines.map((l, i) => (
            <g key={i}>
              <path d={path(l.points, false)} strokeDasharray={l.dash ? "3 1.5" : undefined} />
              {l.says && (
                <text
                  x={l.points[0]![0]}
                  y={l.points[0]![1]}
                  dx={1.5}
                  dy={4}
                  fontSize={3.5}
                  fill="#000"
                  stroke="none"
                >
                  {i + 1}
                </text>
              )}
            </g>
          ))}
          {template.circles.map((c, i) => (
            <circle key={i} cx={c.at[0]} cy={c.at[1]} r={c.radius} />
          ))}
        </g>
        {joinsLeft && <path d={`M${OVERLAP} 0V${height}`} strokeDasharray="1 2" />}
        {joinsTop && <path d={`M0 ${OVERLAP}H${width}`} strokeDasharray="1 2" />}
        <rect width={width} height={height} strokeWidth={0.15} />
      </g>
      <g transform={`translate(0 ${height + 5})`} stroke="#000" strokeWidth={0.4} fill="none">
        <path data-check-bar d={`M1 0H${1 + BAR}`} />
        <path
          d={Array.from(
            { length: 11 },
            (_, i) => `M${1 + (i * BAR) / 10} ${i % 5 ? -1 : -2}V${i % 5 ? 1 : 2}`,
          ).join("")}
        />
      </g>
      <text x={BAR + 5} y={height + 6} fontSize={3.4} fill="#000">
        100 mm: measure it
      </text>
      <text x={1} y={height + 11} fontSize={3} fill="#000">
        {part}: {template.name}
      </text>
      <text x={1} y={height + 15} fontSize={2.6} fill="#000">
        Page {n + 1} of {columns * rows}
        {columns * rows > 1 && `, row ${row + 1}, column ${column + 1}`}
        {n > 0 && "; lay the dotted line on the edge of the page before"}
        {template.note && `. ${template.note}`}
      </text>
    </svg>
  );
}
