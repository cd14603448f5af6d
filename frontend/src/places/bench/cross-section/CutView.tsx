import { memo } from "react";
import type { Estimate, Part } from "../../../api/client";
import { cutAt, nearest } from "../../../charts/interpolate";
import { OverPattern } from "../../../charts/OverPattern";
import { toneOf } from "../../../charts/tone";
import { useWidth } from "../../../charts/useWidth";
import { Word } from "../../../words/Word";
import { bare, show } from "../../../forms/units";
import { CutGrips } from "./CutGrips";
import { CutLabels } from "./CutLabels";
import { CutRuler } from "./CutRuler";
import { CutBars, CutHoles, CutSkins, CutThings } from "./CutShapes";

interface Props {
  estimate: Estimate;
  part: Part;
  cursor: number;
  selected: string | null;
  setSelected: (id: string | null) => void;
  change: (edit: (part: Part) => Part) => void;
  /** As large as the sheet, to work on. */
  large?: boolean;
  /** Where the cut is made can be moved here too. */
  setCursor?: (y: number) => void;
}

/** The cut at the cursor, true to scale but for the skins, which are drawn legibly thick and labelled true. */
export const CutView = memo(function CutView(props: Props) {
  const { estimate, part, cursor, selected, setSelected, change, large = false, setCursor } = props;
  const [ref, width] = useWidth<HTMLDivElement>();
  const cut = cutAt(estimate.stretches, cursor);
  const zs = cut.outline.map((p) => p[1]);
  const [low, high] = [Math.min(...zs), Math.max(...zs)];
  const scale = Math.max(0.05, Math.min((width - 110) / cut.chord_mm, (large ? 330 : 84) / (high - low)));
  const height = (high - low) * scale + 84;
  const x0 = (width - cut.chord_mm * scale) / 2;
  const px = (x: number) => x0 + x * scale;
  const pz = (z: number) => 26 + (high - z) * scale;
  const path = (points: readonly (readonly number[])[], lift: (x: number) => number = () => 0) =>
    points.map((p) => `${px(p[0]!).toFixed(1)},${(pz(p[1]!) - lift(p[0]!)).toFixed(1)}`).join(" ");
  const index = nearest(estimate.curves.y_mm, cursor);
  const shareOf = (id: string) => estimate.lines.find((l) => l.id === id)?.use[index] ?? 0;
  const nameOf = (id: string) => estimate.lines.find((l) => l.id === id)?.label ?? "";
  const numbers = ["foam", ...estimate.lines.map((l) => l.id).filter((id) => id !== "foam" && id !== "ribs")];
  const shapes = { cut, px, pz, scale, path, selected, setSelected, shareOf, nameOf };
  return (
    <section className="border-t border-rule px-5 pt-1.5 pb-1">
      <div ref={ref} className="min-w-0">
        <h2 className="text-small font-semibold">
          Cross-section at {show(cursor, "length", 4)}{" "}
          <span className="font-normal text-soft">
            chord {bare(cut.chord_mm, "length", 4)}, thickness {show(cut.thickness_mm, "length")}, skins drawn
            thick, <Word k="shear_centre">shear centre</Word> dash-dot
          </span>
        </h2>
        {width > 0 && (
          <svg
            width={width}
            height={height}
            className="block"
            role="group"
            aria-label={`Cross-section ${show(cursor, "length", 4)} from root`}
          >
            <OverPattern />
            <polygon
              points={path(cut.outline)}
              fill={cut.hollow ? "none" : toneOf(shareOf("foam"))}
              stroke={cut.hollow ? "var(--hair)" : "var(--foam-edge)"}
              strokeDasharray={cut.hollow ? "3 4" : undefined}
            />
            <CutHoles {...shapes} />
            <line
              x1={px(0)}
              x2={px(cut.chord_mm)}
              y1={pz(0)}
              y2={pz(0)}
              stroke="var(--hair)"
              strokeDasharray="8 3 2 3"
            />
            <CutSkins {...shapes} />
            <CutBars {...shapes} />
            <CutThings {...shapes} />
            <TwistLine
              x={px(estimate.curves.shear_centre_mm[index] ?? 0)}
              top={pz(high) + 3}
              bottom={pz(low) - 3}
              width={width}
            />
            <CutLabels {...{ cut, px, pz, high, low, width, nameOf, numbers }} />
            <path
              d={`M${px(0)} ${height - 8}h${cut.chord_mm * scale}m0 -4v8M${px(0)} ${height - 12}v8`}
              stroke="var(--ink)"
              fill="none"
            />
            <text x={px(cut.chord_mm) + 8} y={height - 4} fontSize={12}>
              {bare(cut.chord_mm, "length", 4)}
            </text>
            <CutGrips {...{ cut, part, selected, change, px, pz, scale, x0 }} top={pz(0)} />
          </svg>
        )}
        {large && setCursor && width > 0 && <CutRuler {...{ estimate, cursor, setCursor, cut }} />}
      </div>
    </section>
  );
});

/** The line through the centre of twist: a load up or down through it does not twist the part. */
function TwistLine({ x, top, bottom, width }: { x: number; top: number; bottom: number; width: number }) {
  if (x < 8 || x > width - 8) return null;
  return (
    <g stroke="var(--pick)" fill="none" strokeWidth={1.6} pointerEvents="none">
      <title>line through the shear centre</title>
      <path d={`M${x} ${top}V${bottom}`} strokeDasharray="10 3 2 3" />
      <path d={`M${x - 4} ${top}h8M${x - 4} ${bottom}h8`} />
    </g>
  );
}
