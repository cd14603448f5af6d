import { useState, type KeyboardEvent, type MouseEvent } from "react";
import { crossMoved, type Growing, type Spot, type Step } from "./trace";

interface Props {
  url: string;
  size: Spot;
  now: Growing;
  step: Step;
  set: (at: Spot) => void;
  back: () => void;
}

/** The photograph with what was set on it; a cross is moved by arrow keys for those without a pointer. */
export function Picture({ url, size, now, step, set, back }: Props) {
  const [cross, setCross] = useState<Spot | null>(null);
  const unit = Math.max(...size) / 160;
  const press = (e: MouseEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    set([
      Math.round(((e.clientX - box.left) / box.width) * size[0]),
      Math.round(((e.clientY - box.top) / box.height) * size[1]),
    ]);
  };
  const key = (e: KeyboardEvent) => {
    const at = cross ?? [Math.round(size[0] / 2), Math.round(size[1] / 2)];
    const moved = crossMoved(at, e.key, e.shiftKey, size);
    if (moved) setCross(moved);
    else if (e.key === "Enter") set(at);
    else if (e.key === "Backspace") back();
    else return;
    e.preventDefault();
  };
  return (
    <svg
      viewBox={`0 0 ${size[0]} ${size[1]}`}
      className="w-full cursor-crosshair touch-manipulation"
      tabIndex={0}
      role="application"
      aria-label="Photograph: arrow keys move a cross, Enter sets a point, Backspace takes the last one back"
      onClick={press}
      onKeyDown={key}
      onBlur={() => setCross(null)}
    >
      <image href={url} width={size[0]} height={size[1]} />
      <Way points={now.outline} closed unit={unit} strong={step === "outline"} />
      <Way points={now.scale} unit={unit} strong={step === "scale"} label="scale" />
      <Way points={now.check} unit={unit} strong={step === "check"} label="check" />
      {cross && (
        <path
          d={`M${cross[0] - 4 * unit} ${cross[1]}H${cross[0] + 4 * unit}M${cross[0]} ${cross[1] - 4 * unit}V${cross[1] + 4 * unit}`}
          className="stroke-pick"
          strokeWidth={unit / 2}
        />
      )}
    </svg>
  );
}

interface WayProps {
  points: Spot[];
  unit: number;
  strong: boolean;
  closed?: boolean;
  label?: string;
}

/** Points and the lines between them, dark on light so that they stand out on any picture. */
function Way({ points, unit, strong, closed, label }: WayProps) {
  if (points.length === 0) return null;
  const d = `M${points.map((p) => p.join(" ")).join("L")}${closed && points.length > 2 ? "Z" : ""}`;
  return (
    <g>
      <path d={d} fill="none" stroke="#fff" strokeWidth={unit * (strong ? 1.4 : 0.9)} />
      <path d={d} fill="none" stroke="#111" strokeWidth={unit * (strong ? 0.6 : 0.35)} />
      {points.map((p, n) => (
        <circle key={n} cx={p[0]} cy={p[1]} r={unit} fill="#fff" stroke="#111" strokeWidth={unit / 3} />
      ))}
      {label && points[0] && (
        <text
          x={points[0][0] + 2 * unit}
          y={points[0][1] - 2 * unit}
          fontSize={4 * unit}
          fill="#111"
          stroke="#fff"
          strokeWidth={unit}
          paintOrder="stroke"
        >
          {label}
        </text>
      )}
    </g>
  );
}
