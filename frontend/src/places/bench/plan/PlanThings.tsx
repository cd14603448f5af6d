import type { Part, Schemas } from "../../../api/client";

type Cut = Schemas["Cut"];

interface ThingsProps {
  part: Part;
  a: Cut;
  b: Cut;
  px: (y: number) => number;
  pz: (x: number) => number;
  scale: number;
  selected: string | null;
  setSelected: (id: string | null) => void;
}

/** What lies on and in one stretch of the part, seen from above. */
export function Things({ part, a, b, px, pz, scale, selected, setSelected }: ThingsProps) {
  const edge = (cut: Cut, x: number) => `${px(cut.y_mm)},${pz(cut.setback_mm + x)}`;
  return (
    <g>
      {a.skins.map((skin, i) => {
        const other = b.skins[i]!;
        const [f0, r0] = [skin.points[0]![0], skin.points.at(-1)![0]];
        const [f1, r1] = [other.points[0]![0], other.points.at(-1)![0]];
        const strip = part.layers.find((l) => l.id === skin.line_id)?.type === "strip";
        if ((!strip && skin.face !== "web") || skin.face === "front" || skin.face === "rear") return null;
        const on = selected === skin.line_id;
        if (skin.face === "web")
          return (
            <line
              key={`s${i}`}
              x1={px(a.y_mm)}
              x2={px(b.y_mm)}
              y1={pz(a.setback_mm + f0)}
              y2={pz(b.setback_mm + f1)}
              stroke={on ? "var(--pick)" : "var(--foam-edge)"}
              strokeWidth={Math.max(2, skin.thickness_mm * scale)}
              strokeDasharray="12 4"
              onClick={() => setSelected(skin.line_id)}
            />
          );
        return (
          <polygon
            key={`s${i}`}
            points={[edge(a, f0), edge(b, f1), edge(b, r1), edge(a, r0)].join(" ")}
            fill="var(--skin)"
            fillOpacity={skin.face === "upper" ? 0.42 : 0.2}
            stroke={on ? "var(--pick)" : "var(--skin)"}
            strokeWidth={on ? 2.4 : 1}
            strokeDasharray={skin.face === "lower" ? "5 4" : undefined}
            onClick={() => setSelected(skin.line_id)}
          />
        );
      })}
      {a.holes.map((hole, i) => {
        const xs = (h: typeof hole) => h.points.map((p) => p[0]);
        const [f0, r0] = [Math.min(...xs(hole)), Math.max(...xs(hole))];
        const [f1, r1] = [Math.min(...xs(b.holes[i]!)), Math.max(...xs(b.holes[i]!))];
        const on = selected === hole.line_id;
        return (
          <polygon
            key={`h${i}`}
            points={[edge(a, f0), edge(b, f1), edge(b, r1), edge(a, r0)].join(" ")}
            fill="var(--sheet)"
            stroke={on ? "var(--pick)" : "var(--ink)"}
            strokeWidth={on ? 2.4 : 1.2}
            onClick={() => setSelected(hole.line_id)}
          />
        );
      })}
      {a.things.map((thing, i) => {
        const other = b.things[i]!;
        const [f0, r0] = [thing.x_mm - thing.width_mm / 2, thing.x_mm + thing.width_mm / 2];
        const [f1, r1] = [other.x_mm - other.width_mm / 2, other.x_mm + other.width_mm / 2];
        const on = selected === thing.line_id;
        return (
          <g key={`t${i}`} onClick={() => setSelected(thing.line_id)}>
            <polygon
              points={[edge(a, f0), edge(b, f1), edge(b, r1), edge(a, r0)].join(" ")}
              fill="var(--raised)"
              stroke={on ? "var(--pick)" : "var(--ink)"}
              strokeWidth={on ? 2.4 : 1.2}
            />
            <path
              d={`M${edge(a, f0)}L${edge(b, r1)}M${edge(a, r0)}L${edge(b, f1)}`}
              stroke={on ? "var(--pick)" : "var(--hair)"}
            />
          </g>
        );
      })}
      {a.cords.map((cord, i) => (
        <line
          key={`c${i}`}
          x1={px(a.y_mm)}
          x2={px(b.y_mm)}
          y1={pz(a.setback_mm + cord.x_mm)}
          y2={pz(b.setback_mm + b.cords[i]!.x_mm)}
          stroke={selected === cord.line_id ? "var(--pick)" : "var(--ink)"}
          strokeWidth={3}
          strokeDasharray="2 3"
          onClick={() => setSelected(cord.line_id)}
        />
      ))}
      {a.bars.map((bar, i) => {
        const other = b.bars[i]!;
        const on = selected === bar.line_id;
        return (
          <line
            key={`b${i}`}
            x1={px(a.y_mm)}
            x2={px(b.y_mm)}
            y1={pz(a.setback_mm + bar.x_mm)}
            y2={pz(b.setback_mm + other.x_mm)}
            stroke={on ? "var(--pick)" : "var(--ink)"}
            strokeWidth={Math.max(2.5, bar.width_mm * scale)}
            strokeDasharray={bar.side === "upper" || bar.side === "lower" ? undefined : "9 3"}
            onClick={() => setSelected(bar.line_id)}
          />
        );
      })}
    </g>
  );
}
