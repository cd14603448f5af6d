import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Airframe, Schemas } from "../../api/client";
import { useWidth } from "../../charts/useWidth";
import { show } from "../../forms/units";
import { corners, sidesOf } from "../../part/AirframeDrawing";

interface Props {
  document: Airframe;
  whole: Schemas["Whole"] | undefined;
}

const HEIGHT = 330;

/** All parts at their places, the nose to the left, with the datum and the point of balance. */
export function FromAbove({ document, whole }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const [over, setOver] = useState<string | null>(null);
  const navigate = useNavigate();
  const { airframeId } = useParams();
  const flying = (document.parts ?? []).filter((p) => p.kind !== "plank");
  const shapes = flying.flatMap((part) =>
    sidesOf(part).map((side) => ({ part, points: corners(part, side) })),
  );
  const all = shapes.flatMap((s) => s.points);
  if (!all.length) return <p className="py-10 text-soft">No parts yet. Add a part with “+”.</p>;
  const [x0, x1] = [Math.min(0, ...all.map((p) => p[0])), Math.max(...all.map((p) => p[0]))];
  const [y0, y1] = [Math.min(...all.map((p) => p[1])), Math.max(...all.map((p) => p[1]))];
  const scale = Math.max(0.02, Math.min((width - 90) / (x1 - x0 || 1), (HEIGHT - 50) / (y1 - y0 || 1)));
  const left = (width - (x1 - x0) * scale) / 2;
  const px = (x: number) => left + (x - x0) * scale;
  const py = (y: number) => HEIGHT / 2 - (y - (y0 + y1) / 2) * scale;
  return (
    <div ref={ref} className="min-w-0">
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label={`Plan view of ${document.name}, nose to the left`}
        >
          <line
            x1={px(x0) - 20}
            x2={px(x1) + 20}
            y1={py(0)}
            y2={py(0)}
            stroke="var(--hair)"
            strokeDasharray="12 3 2 3"
          />
          {shapes.map(({ part, points }, i) => (
            <polygon
              key={i}
              points={points.map(([x, y]) => `${px(x)},${py(y)}`).join(" ")}
              fill={over === part.id ? "var(--pick-wash)" : "var(--foam)"}
              stroke="var(--ink)"
              strokeWidth={1.4}
              className="cursor-pointer"
              onPointerEnter={() => setOver(part.id)}
              onPointerLeave={() => setOver(null)}
              onClick={() => void navigate(`/bench/${airframeId}/${part.id}`)}
            >
              <title>{part.name}</title>
            </polygon>
          ))}
          <line x1={px(0)} x2={px(0)} y1={20} y2={HEIGHT - 14} stroke="var(--ink)" strokeDasharray="4 3" />
          <text x={px(0) + 5} y={HEIGHT - 6} fontSize={12}>
            datum
          </text>
          {whole?.balance_mm && (
            <g>
              <circle
                cx={px(whole.balance_mm.typ)}
                cy={py(0)}
                r={9}
                fill="var(--raised)"
                stroke="var(--ink)"
              />
              <path
                d={`M${px(whole.balance_mm.typ)} ${py(0)}v-9a9 9 0 0 1 9 9zM${px(whole.balance_mm.typ)} ${py(0)}v9a9 9 0 0 1 -9 -9z`}
                fill="var(--ink)"
              />
              <text x={px(whole.balance_mm.typ) + 14} y={py(0) - 12} fontSize={13} fontWeight={620}>
                {show(whole.balance_mm.typ, "length")}
              </text>
            </g>
          )}
          <text x={px((x0 + x1) / 2)} y={14} fontSize={12} textAnchor="middle">
            {show(x1 - x0, "length", 4)} long, {show(y1 - y0, "length", 4)} span
          </text>
        </svg>
      )}
    </div>
  );
}
