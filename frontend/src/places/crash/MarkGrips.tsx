import { useRef } from "react";
import { gripsOf, stretched, type End, type Grip, type Mark } from "./reaches";

interface Props {
  mark: Mark;
  number: number;
  span: number;
  /** Places on the drawing of mm outwards, and of per cent behind the nose at such a place. */
  px: (y: number) => number;
  place: (y: number, percent: number) => number;
  chord: (y: number) => number;
  /** Mm outwards and per cent behind the nose at a point of the drawing. */
  under: (x: number, y: number, at: number) => { along: number; percent: number };
  change: (mark: Mark) => void;
}

/** The ends of the mark that is taken up, to be pulled by pointer or keys. */
export function MarkGrips({ mark, number, span, px, place, chord, under, change }: Props) {
  const held = useRef<End | null>(null);
  const put = (grip: Grip, value: number) =>
    change(stretched(mark, grip.end, value, span, chord(grip.along)));
  return (
    <g>
      {gripsOf(mark, span, chord).map((grip) => {
        const [x, y] = [px(grip.along), place(grip.along, grip.percent)];
        const lengthwise = grip.end === "start_mm" || grip.end === "end_mm";
        return (
          <g
            key={grip.end}
            role="slider"
            tabIndex={0}
            aria-label={`${grip.label} of mark ${number}`}
            aria-orientation={lengthwise ? "horizontal" : "vertical"}
            aria-valuemin={0}
            aria-valuemax={Math.round(grip.most)}
            aria-valuenow={Math.round(grip.value)}
            aria-valuetext={`${Math.round(grip.value)} ${grip.unit}`}
            className={lengthwise ? "cursor-ew-resize" : "cursor-ns-resize"}
            onKeyDown={(e) => {
              // downwards on the drawing is rearwards on the part
              const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[e.key];
              if (!by) return;
              e.preventDefault();
              put(grip, grip.value + by * (e.shiftKey ? 10 : 1));
            }}
            onPointerDown={(e) => {
              held.current = grip.end;
              e.currentTarget.setPointerCapture(e.pointerId);
            }}
            onPointerMove={(e) => {
              if (held.current !== grip.end) return;
              const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
              const here = under(e.clientX - box.left, e.clientY - box.top, grip.along);
              const deep = "face" in mark && mark.face === "rear" ? 100 - here.percent : here.percent;
              put(
                grip,
                lengthwise
                  ? here.along
                  : grip.end === "depth_mm"
                    ? (deep / 100) * chord(grip.along)
                    : here.percent,
              );
            }}
            onPointerUp={() => (held.current = null)}
          >
            <rect x={x - 12} y={y - 12} width={24} height={24} fill="transparent" />
            <rect
              x={x - (lengthwise ? 3.5 : 8)}
              y={y - (lengthwise ? 8 : 3.5)}
              width={lengthwise ? 7 : 16}
              height={lengthwise ? 16 : 7}
              fill="var(--sheet)"
              stroke="var(--fail)"
              strokeWidth={2}
            />
          </g>
        );
      })}
    </g>
  );
}
