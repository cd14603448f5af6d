import type { cutAt } from "../../../charts/interpolate";

interface Props {
  cut: ReturnType<typeof cutAt>;
  /** Points of the picture of places in mm, and points per mm. */
  px: (x: number) => number;
  pz: (z: number) => number;
  scale: number;
  path: (points: readonly (readonly number[])[], lift?: (x: number) => number) => string;
  selected: string | null;
  setSelected: (id: string | null) => void;
  /** How much of its strength a line uses here, and what it is called. */
  shareOf: (id: string) => number;
  nameOf: (id: string) => string;
}

const SKIN_PX = 4;

/** What was cut out. */
export function CutHoles({ cut, path, selected, setSelected }: Props) {
  return (
    <>
      {cut.holes.map((hole, i) => (
        <polygon
          key={`h${i}`}
          points={path(hole.points)}
          fill="var(--sheet)"
          stroke={selected === hole.line_id ? "var(--pick)" : "var(--foam-edge)"}
          strokeWidth={selected === hole.line_id ? 2.4 : 1}
          onClick={() => setSelected(hole.line_id)}
        />
      ))}
    </>
  );
}

/** Skins and walls; skins lie on one another. */
export function CutSkins({ cut, path, scale, selected, setSelected, shareOf }: Props) {
  return (
    <>
      {cut.skins.map((skin, i) => {
        const side = skin.face === "upper" ? 1 : skin.face === "lower" ? -1 : 0;
        const beneath = cut.skins.slice(0, i).filter((s) => s.face === skin.face && !s.wall);
        const thick = Math.max(SKIN_PX, skin.thickness_mm * scale);
        const lift = (x: number) =>
          (skin.wall ? 0 : side * SKIN_PX) *
          (0.5 + beneath.filter((s) => x >= s.points[0]![0] && x <= s.points.at(-1)![0]).length);
        const on = selected === skin.line_id;
        const use = shareOf(skin.line_id);
        return (
          <g key={i} onClick={() => setSelected(skin.line_id)}>
            <polyline
              points={path(skin.points, lift)}
              fill="none"
              stroke={
                on ? "var(--pick)" : use > 1 ? "var(--fail)" : skin.wall ? "var(--foam-edge)" : "var(--skin)"
              }
              strokeWidth={skin.wall ? thick : SKIN_PX}
            />
          </g>
        );
      })}
    </>
  );
}

/** Rods, tubes and flat bars at their true size. */
export function CutBars({ cut, px, pz, scale, selected, setSelected, shareOf }: Props) {
  return (
    <>
      {cut.bars.map((bar, i) => {
        const on = selected === bar.line_id;
        const use = shareOf(bar.line_id);
        const common = {
          fill: use > 1 ? "url(#over)" : "var(--ink)",
          stroke: on ? "var(--pick)" : "var(--raised)",
          strokeWidth: on ? 3 : 1,
          onClick: () => setSelected(bar.line_id),
        };
        const [w, h] = [Math.max(4, bar.width_mm * scale), Math.max(4, bar.height_mm * scale)];
        return bar.shape === "flat" ? (
          <rect key={i} x={px(bar.x_mm) - w / 2} y={pz(bar.z_mm) - h / 2} width={w} height={h} {...common} />
        ) : (
          <g key={i}>
            <circle cx={px(bar.x_mm)} cy={pz(bar.z_mm)} r={w / 2} {...common} />
            {bar.bore_mm > 0 && (
              <circle cx={px(bar.x_mm)} cy={pz(bar.z_mm)} r={(bar.bore_mm * scale) / 2} fill="var(--sheet)" />
            )}
          </g>
        );
      })}
    </>
  );
}

/** What is carried, and cords along the edges. */
export function CutThings({ cut, px, pz, scale, selected, setSelected, nameOf }: Props) {
  return (
    <>
      {cut.things.map((thing, i) => (
        <rect
          key={`t${i}`}
          x={px(thing.x_mm - thing.width_mm / 2)}
          y={pz(thing.z_mm + thing.height_mm / 2)}
          width={thing.width_mm * scale}
          height={thing.height_mm * scale}
          fill="var(--raised)"
          stroke={selected === thing.line_id ? "var(--pick)" : "var(--ink)"}
          strokeWidth={selected === thing.line_id ? 2.4 : 1.2}
          onClick={() => setSelected(thing.line_id)}
        >
          <title>{nameOf(thing.line_id)}</title>
        </rect>
      ))}
      {cut.cords.map((cord, i) => (
        <circle
          key={`c${i}`}
          cx={px(cord.x_mm)}
          cy={pz(cord.z_mm)}
          r={4}
          fill="var(--raised)"
          stroke={selected === cord.line_id ? "var(--pick)" : "var(--ink)"}
          strokeWidth={2}
          onClick={() => setSelected(cord.line_id)}
        >
          <title>{nameOf(cord.line_id)}</title>
        </circle>
      ))}
    </>
  );
}
