import { useState } from "react";
import type { Airframe, Catalogue, Schemas } from "../../api/client";
import { useWidth } from "../../charts/useWidth";
import { show } from "../../forms/units";
import { Grip } from "../../part/Grip";
import { centreNow, extentOf, leanOf, sideOf, weightsOn, type Item } from "./sideShapes";

interface Props {
  document: Airframe;
  sheet: Schemas["BalanceSheet"];
  catalogue: Catalogue;
  /** An item is put at a place along the airframe. */
  move: (id: string, x: number) => void;
}

const SIDE = 30;
const SCALE_ROW = 36;
const BEAM_ROW = 92;

/** The airframe from the left with what it carries, its range and centre on a ruler, and as a beam that leans. */
export function SideView({ document, sheet, catalogue, move }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const [held, setHeld] = useState<string | null>(null);
  const items = document.equipment ?? [];
  const parts = (document.parts ?? []).filter((p) => p.kind !== "plank");
  const [left, right, low, high] = extentOf(parts, items);
  const k = Math.min((width - 2 * SIDE) / (right - left || 1), 150 / (high - low || 1));
  const offset = (width - (right - left) * k) / 2;
  const x = (mm: number) => offset + (mm - left) * k;
  const y = (mm: number) => 34 + (high - mm) * k;
  const ruler = y(low) + 44;
  const weights = weightsOn(sheet.lines, items);
  const beam = ruler + SCALE_ROW + 2 * Math.max(0, ...weights.map((w) => radius(w.grams)));
  const centre = centreNow(sheet.lines, items);
  const margin = sheet.margin;
  const target = margin?.target_mm ?? centre;
  const lean = leanOf(centre, target, [left, right]);
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg
          width={width}
          height={beam + BEAM_ROW}
          className="block select-none"
          role="group"
          aria-label={`Airframe from the left, nose to the left, balancing at ${show(centre, "length", 4)}`}
        >
          {parts.map((p) => (
            <polygon
              key={p.id}
              points={sideOf(p)
                .map(([px, pz]) => `${x(px).toFixed(1)},${y(pz).toFixed(1)}`)
                .join(" ")}
              fill="var(--foam)"
              stroke="var(--foam-edge)"
            />
          ))}
          {items.map((e, i) => (
            <Box
              key={e.id}
              item={e}
              {...{ catalogue, x, y, k }}
              marked={held === e.id}
              above={i % 2 === 0}
              named={width > 640}
            />
          ))}
          <Ruler {...{ sheet, centre, x }} at={ruler} ends={[x(left), x(right)]} />
          <g transform={`rotate(${lean} ${x(target)} ${beam})`}>
            <line x1={x(left)} x2={x(right)} y1={beam} y2={beam} stroke="var(--ink)" strokeWidth={2.5} />
            {weights.map((w) => (
              <circle
                key={w.key}
                cx={x(w.x)}
                cy={beam - 2 - radius(w.grams)}
                r={radius(w.grams)}
                fill={w.item === null ? "var(--foam)" : "var(--raised)"}
                stroke={w.item !== null && w.item === held ? "var(--pick)" : "var(--ink)"}
                strokeWidth={w.item !== null && w.item === held ? 3 : 1.2}
              />
            ))}
          </g>
          <path
            d={`M${x(target)} ${beam + 2}l14 26h-28z`}
            fill="var(--sheet)"
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
          <text x={x(target)} y={beam + 46} fontSize={12} textAnchor="middle" style={{ fill: "var(--soft)" }}>
            {margin ? `middle of its range, ${show(target, "length", 4)}` : show(target, "length", 4)}
          </text>
          {items.map((e) => (
            <Grip
              key={e.id}
              at={{ x: x(e.x_mm ?? 0), y: y(e.z_mm ?? 0) }}
              label={`${nameOf(e, catalogue)}, place behind the datum`}
              value={e.x_mm ?? 0}
              most={right}
              text={`${nameOf(e, catalogue)} ${show(e.x_mm ?? 0, "length", 4)}`}
              shape="load"
              onDrag={(px) => move(e.id, within(e, Math.round(left + (px - offset) / k)))}
              onStep={(by) => move(e.id, within(e, (e.x_mm ?? 0) + by))}
              onHold={(on) => setHeld(on ? e.id : null)}
            />
          ))}
        </svg>
      )}
    </div>
  );
}

const radius = (grams: number) => Math.max(3, 1.5 * Math.sqrt(grams));

/** A place within the room of an item. */
const within = (item: Item, at: number) =>
  Math.max(item.from_mm ?? -Infinity, Math.min(item.to_mm ?? Infinity, at));

export function nameOf(item: Item, catalogue: Catalogue): string {
  const stock = catalogue.fittings.find((f) => f.key === item.stock);
  return item.name || (stock?.name ?? item.what ?? "item");
}

interface BoxProps {
  item: Item;
  catalogue: Catalogue;
  x: (mm: number) => number;
  y: (mm: number) => number;
  k: number;
  marked: boolean;
  /** Its name stands over it, or under it. */
  above: boolean;
  named: boolean;
}

/** An item as its own box, and the room along which it may be moved. */
function Box({ item, catalogue, x, y, k, marked, above, named }: BoxProps) {
  const stock = catalogue.fittings.find((f) => f.key === item.stock);
  const [long, tall] = [Math.max(4, (stock?.long_mm || 20) * k), Math.max(4, (stock?.high_mm || 12) * k)];
  const [cx, cy] = [x(item.x_mm ?? 0), y(item.z_mm ?? 0)];
  const room = item.from_mm != null || item.to_mm != null;
  return (
    <g>
      {room && (
        <line
          x1={x(item.from_mm ?? item.x_mm ?? 0)}
          x2={x(item.to_mm ?? item.x_mm ?? 0)}
          y1={cy}
          y2={cy}
          stroke="var(--pick)"
          strokeDasharray="2 3"
        />
      )}
      <rect
        x={cx - long / 2}
        y={cy - tall / 2}
        width={long}
        height={tall}
        fill="var(--raised)"
        stroke={marked ? "var(--pick)" : "var(--ink)"}
        strokeWidth={marked ? 2.5 : 1}
      />
      {named && !marked && (
        <text
          x={cx}
          y={above ? cy - tall / 2 - 4 : cy + tall / 2 + 12}
          fontSize={11}
          textAnchor="middle"
          style={{ fill: "var(--soft)" }}
        >
          {item.what === "other" ? item.name || "item" : item.what}
        </text>
      )}
    </g>
  );
}

interface RulerProps {
  sheet: Schemas["BalanceSheet"];
  centre: number;
  x: (mm: number) => number;
  at: number;
  ends: readonly [number, number];
}

/** Range, centre with its band, and neutral point along the airframe. */
function Ruler({ sheet, centre, x, at, ends }: RulerProps) {
  const { margin, neutral } = sheet;
  const spread = [sheet.centre_mm.low - sheet.centre_mm.typ, sheet.centre_mm.high - sheet.centre_mm.typ];
  const inside = margin && centre >= margin.front_mm && centre <= margin.rear_mm;
  return (
    <g fontSize={12}>
      <line x1={ends[0]} x2={ends[1]} y1={at} y2={at} stroke="var(--hair)" />
      {margin && (
        <>
          <rect
            x={x(margin.front_mm)}
            y={at - 7}
            width={Math.max(2, x(margin.rear_mm) - x(margin.front_mm))}
            height={14}
            fill="var(--pick-wash)"
            stroke="var(--pick)"
          />
          <text x={x(margin.target_mm)} y={at - 14} textAnchor="middle" style={{ fill: "var(--pick)" }}>
            range
          </text>
        </>
      )}
      {neutral && (
        <>
          <line
            x1={x(neutral.x_mm.low)}
            x2={x(neutral.x_mm.high)}
            y1={at + 9}
            y2={at + 9}
            stroke="var(--soft)"
            strokeWidth={3}
            opacity={0.5}
          />
          <path d={`M${x(neutral.x_mm.typ)} ${at + 2}l5 8l-5 8l-5 -8z`} fill="var(--soft)" />
          <text
            x={x(neutral.x_mm.typ) + 9}
            y={at + 26}
            style={{ fill: "var(--soft)" }}
          >{`neutral point ${show(neutral.x_mm.typ, "length", 4)}`}</text>
        </>
      )}
      <line
        x1={x(centre + spread[0]!)}
        x2={x(centre + spread[1]!)}
        y1={at}
        y2={at}
        stroke={inside === false ? "var(--fail)" : "var(--ink)"}
        strokeWidth={5}
        opacity={0.45}
      />
      <circle cx={x(centre)} cy={at} r={7} fill="var(--raised)" stroke="var(--ink)" strokeWidth={1.5} />
      <path
        d={`M${x(centre)} ${at}v-7a7 7 0 0 1 7 7zM${x(centre)} ${at}v7a7 7 0 0 1 -7 -7z`}
        fill="var(--ink)"
      />
      <text
        x={x(centre)}
        y={at - 28}
        textAnchor="middle"
        style={{ fill: inside === false ? "var(--fail)" : "var(--ink)", fontWeight: 650 }}
      >
        {inside === false && "✕ "}
        {show(centre, "length", 4)}
      </text>
    </g>
  );
}
