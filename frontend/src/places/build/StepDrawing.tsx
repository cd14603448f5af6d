import type { Airframe, Layer, Part } from "../../api/client";
import type { Operation } from "./shop";

const WIDE = 640;

/** The part that a step is done on, from above, with the line that it is about. */
export function StepDrawing({ document, o }: { document: Airframe; o: Operation }) {
  const part = document.parts?.find((p) => p.id === o.part_id);
  if (!part) return null;
  const scale = WIDE / Math.max(part.span_mm, 1);
  const chord = Math.max(part.root_chord_mm, part.tip_chord_mm + Math.abs(part.tip_setback_mm ?? 0));
  const at = (along: number, percent: number) => {
    const share = along / part.span_mm;
    const here = part.root_chord_mm + share * (part.tip_chord_mm - part.root_chord_mm);
    return `${along * scale},${((part.tip_setback_mm ?? 0) * share + (percent / 100) * here) * scale}`;
  };
  const outline = [at(0, 0), at(part.span_mm, 0), at(part.span_mm, 100), at(0, 100)].join(" ");
  return (
    <svg
      viewBox={`-4 -4 ${WIDE + 8} ${chord * scale + 8}`}
      className="max-h-[34vh] w-full"
      role="img"
      aria-label={`${part.name} from above, root on the left, nose up`}
    >
      <polygon points={outline} className="fill-none stroke-ink" strokeWidth="1.5" />
      {[...(part.layers ?? [])]
        .sort((a, b) => Number(a.id === o.layer_id) - Number(b.id === o.layer_id))
        .map((la) => (
          <Line
            key={la.id}
            la={la}
            part={part}
            at={at}
            scale={scale}
            on={la.id === o.layer_id}
            outline={outline}
          />
        ))}
    </svg>
  );
}

interface LineProps {
  la: Layer;
  part: Part;
  at: (along: number, percent: number) => string;
  scale: number;
  on: boolean;
  outline: string;
}

/** A line of the lay-up where it lies: the one that the step is about filled, the others faint. */
function Line({ la, part, at, scale, on, outline }: LineProps) {
  if (la.enabled === false) return null;
  const [from, end] = [la.start_mm ?? 0, la.end_mm ?? part.span_mm];
  const tone = on ? "var(--pick)" : "var(--rule)";
  if (!("root_percent" in la))
    return on ? <polygon points={outline} fill="var(--pick)" fillOpacity="0.25" stroke={tone} /> : null;
  const root = la.root_percent ?? 30;
  const tip = "tip_percent" in la ? (la.tip_percent ?? root) : root;
  const share = (y: number) => root + (y / part.span_mm) * (tip - root);
  const wide = "width_mm" in la && typeof la.width_mm === "number" ? la.width_mm * scale : 4;
  return (
    <polyline
      points={`${at(from, share(from))} ${at(Math.max(end, from + 2), share(end))}`}
      fill="none"
      stroke={tone}
      strokeOpacity={on ? 1 : 0.7}
      strokeWidth={Math.max(wide, on ? 5 : 2)}
    />
  );
}
