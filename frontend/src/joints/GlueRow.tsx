import type { Schemas } from "../api/client";
import { CautionLines } from "../shared/Cautions";
import { bare, inUnits, plain, show } from "../shared/units";

type Glue = Schemas["GlueChoice"];

const MEETS = {
  sure: "✓ surely holds",
  typical: "✓ typically holds",
  later: "holds later",
  no: "✕ holds too little",
} as const;

const TICKS: [number, string][] = [
  [5, "5 min"],
  [60, "1 h"],
  [360, "6 h"],
  [1440, "1 d"],
  [10080, "7 d"],
];

interface Props {
  choice: Glue;
  rank: number;
  /** Its place before the last change; 0: it had none. */
  before: number;
  asked: number;
  within: number;
}

/** One adhesive: its place and why, what it holds and when; opened, how it is used. */
export function GlueRow({ choice: c, rank, before, asked, within }: Props) {
  const moved = before > 0 ? before - rank : 0;
  return (
    <li className="border-b border-rule">
      <details>
        <summary className="grid min-h-14 cursor-pointer grid-cols-[2.6rem_minmax(0,1fr)_8.5rem_8.5rem_5rem] items-center gap-x-3 py-1.5 hover:bg-pick-wash max-md:grid-cols-[2.6rem_minmax(0,1fr)_7rem]">
          <span className="figure-type text-[1.05rem]">
            {rank}
            {moved !== 0 && (
              <span className="block text-[0.75rem] font-normal text-soft">
                {moved > 0 ? "▲" : "▼"} {Math.abs(moved)}
              </span>
            )}
          </span>
          <span className="leading-tight">
            <strong>{c.name}</strong>
            <span className="block text-[0.86rem] text-soft">{inUnits(c.why)}</span>
          </span>
          <span className="text-right">
            <span className={`figure-type ${c.meets === "no" ? "text-fail" : ""}`}>
              {show(c.then_N.typ, "force", 2)}
            </span>
            <span className="block text-[0.8rem] text-soft">
              {bare(c.then_N.low, "force", 2)} – {bare(c.then_N.high, "force", 2)}
            </span>
            <span className="block text-[0.8rem]">{MEETS[c.meets]}</span>
          </span>
          <span className="text-right max-md:hidden">
            <span className="figure-type">{show(c.finally_N.typ, "force", 2)}</span>
            <span className="sr-only"> cured</span>
            <span className="block text-[0.8rem] text-soft">{c.fails}</span>
          </span>
          <span className="text-right max-md:hidden">
            <span className="figure-type">{show(c.grams.typ, "mass", 2)}</span>
            <span className="block text-[0.8rem] text-soft">
              {bare(c.grams.low, "mass", 2)} – {bare(c.grams.high, "mass", 2)}
            </span>
          </span>
        </summary>
        <div className="grid grid-cols-2 gap-x-8 pt-1 pb-4 pl-[3.3rem] text-[0.92rem] max-md:grid-cols-1 max-md:pl-0">
          <Curve choice={c} asked={asked} within={within} />
          <div className="leading-snug">
            <p>
              <strong>Put on:</strong> {c.technique_says}.
            </p>
            <ol className="my-1 list-decimal pl-5">
              {c.plan.map((step) => (
                <li key={step}>{step}</li>
              ))}
            </ol>
            <p>
              <strong>First:</strong> {c.prepare}.
            </p>
            <CautionLines cautions={c.cautions} />
            <p className="mt-1.5 text-[0.85rem] text-soft">Estimate, grade {c.grade}.</p>
          </div>
        </div>
      </details>
    </li>
  );
}

/** What it holds over time, with its band, on a scale of time that is closer at first. */
function Curve({ choice: c, asked, within }: { choice: Glue; asked: number; within: number }) {
  const [width, height, left, foot] = [360, 170, 44, 24];
  const [t0, t1] = [Math.log(4), Math.log(10080)];
  const most = Math.max(...c.curve.map((p) => p.load_N.high), asked * 1.2, 1e-6);
  const px = (minutes: number) =>
    left + ((Math.log(Math.max(minutes, 4)) - t0) / (t1 - t0)) * (width - left - 8);
  const py = (load: number) => height - foot - (load / most) * (height - foot - 10);
  const line = (pick: "typ" | "low" | "high") =>
    c.curve.map((p) => `${px(p.minutes).toFixed(1)},${py(p.load_N[pick]).toFixed(1)}`);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="w-full max-w-md"
        role="img"
        aria-label={`${c.name} holds ${c.curve.map((p) => `${plain(p.load_N.typ, 2)} N after ${plain(p.minutes)} min`).join(", ")}`}
      >
        <polygon
          points={[...line("high"), ...line("low").reverse()].join(" ")}
          fill="var(--ink)"
          fillOpacity={0.12}
        />
        <polyline points={line("typ").join(" ")} fill="none" stroke="var(--ink)" strokeWidth={2.4} />
        <path d={`M${left} ${py(asked)}H${width - 8}`} stroke="var(--fail)" strokeDasharray="6 4" />
        <path d={`M${px(within)} 8V${height - foot}`} stroke="var(--pick)" strokeDasharray="2 3" />
        <path d={`M${left} 8V${height - foot}H${width - 8}`} stroke="var(--ink)" fill="none" />
        {TICKS.map(([minutes, label]) => (
          <text key={label} x={px(minutes)} y={height - 8} fontSize={11} textAnchor="middle">
            {label}
          </text>
        ))}
        <text x={left - 5} y={py(asked) + 4} fontSize={11} textAnchor="end">
          {show(asked, "force", 2)}
        </text>
        <text x={left - 5} y={16} fontSize={11} textAnchor="end">
          {bare(most, "force", 2)}
        </text>
      </svg>
      <figcaption className="text-[0.82rem] text-soft">
        What it holds after it is closed, 5 to 95 %; dashed what is asked, dotted when.
      </figcaption>
    </figure>
  );
}
