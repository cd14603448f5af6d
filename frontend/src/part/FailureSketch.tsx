import type { ReactNode } from "react";

type Look =
  | "crack"
  | "shear"
  | "tear"
  | "wrinkle"
  | "crease"
  | "crush"
  | "stretch"
  | "fold"
  | "snap"
  | "squash"
  | "buckle"
  | "slide"
  | "peel"
  | "pull";

/** What each kind of failure of the core looks like. */
const LOOKS: Record<string, Look> = {
  foam_tension: "crack",
  notch: "crack",
  core_tears: "crack",
  core_shear: "shear",
  wall_shear: "shear",
  skin_tension: "tear",
  skin_wrinkling: "wrinkle",
  wall_buckling: "wrinkle",
  skin_compression: "crease",
  foam_crush: "crush",
  core_crush: "crush",
  strap_crush: "crush",
  joint_bearing: "crush",
  nose_spent: "crush",
  foam_yield: "stretch",
  skin_yield: "stretch",
  folds: "fold",
  bends_over: "fold",
  bar_tension: "snap",
  bar_twist: "snap",
  bar_splice: "snap",
  cord_pull: "snap",
  bar_compression: "squash",
  bar_buckling: "buckle",
  bar_strut: "buckle",
  bar_flute: "buckle",
  bar_bond: "slide",
  strip_bond: "slide",
  skin_shear: "slide",
  cord_bond: "slide",
  strip_end: "peel",
  joint_peel: "peel",
  bands_give: "peel",
  joint_glue: "pull",
  joint_foam: "pull",
  joint_part: "pull",
  joint_pin: "pull",
  joint_pull: "pull",
  root_glue: "pull",
  mount_tears: "pull",
  hinge_tears: "pull",
};

const FOAM = { fill: "var(--foam)", stroke: "var(--foam-edge)", strokeWidth: 1 };
const SKIN = { fill: "none", stroke: "var(--skin)", strokeWidth: 2.4 };
const ROD = { fill: "none", stroke: "var(--ink)", strokeWidth: 3 };
const HURT = { fill: "none", stroke: "var(--fail)", strokeWidth: 2 };

const block = <rect x={3} y={9} width={66} height={17} {...FOAM} />;

/** A stretch of the part from the side, the face on which it happens on top. */
const DRAWN: Record<Look, ReactNode> = {
  crack: (
    <>
      <path d="M3 9H34L37 15L34 20L36 26H3Z M69 9H39L42 15L39 20L40 26H69Z" {...FOAM} />
      <path d="M34 9L37 15L34 20L36 25M39 9L42 15L39 20" {...HURT} strokeWidth={1.4} />
    </>
  ),
  shear: (
    <>
      <path d="M3 7H40L30 24H3Z M69 11H43L33 28H69Z" {...FOAM} />
      <path d="M40 7L30 24M43 11L33 28" {...HURT} strokeWidth={1.4} />
    </>
  ),
  tear: (
    <>
      {block}
      <path d="M3 8H31M69 8H41" {...SKIN} />
      <path d="M31 8L33 5M41 8L39 4" {...HURT} />
    </>
  ),
  wrinkle: (
    <>
      {block}
      <path d="M3 8H20M52 8H69" {...SKIN} />
      <path d="M20 8Q23 3 26 8T32 8T38 8T44 8T52 8" {...HURT} />
    </>
  ),
  crease: (
    <>
      {block}
      <path d="M3 8H32M40 8H69" {...SKIN} />
      <path d="M32 8L36 15L40 8" {...HURT} />
    </>
  ),
  crush: (
    <>
      <path d="M3 9H26Q36 22 46 9H69V26H3Z" {...FOAM} />
      <path d="M26 9Q36 22 46 9" {...HURT} />
      <path d="M36 1V9M33 6L36 9.5L39 6" {...ROD} strokeWidth={1.4} />
    </>
  ),
  stretch: (
    <>
      <path d="M3 9H24Q36 14 48 9H69V26H48Q36 21 24 26H3Z" {...FOAM} />
      <path d="M24 9Q36 14 48 9" {...HURT} />
      <path d="M20 5H8M11 2L7 5L11 8M52 5H64M61 2L65 5L61 8" {...ROD} strokeWidth={1.4} />
    </>
  ),
  fold: (
    <>
      <path d="M3 22L34 8L36 12L38 8L69 22L64 29L36 17L8 29Z" {...FOAM} />
      <path d="M34 8L36 12L38 8" {...HURT} />
    </>
  ),
  snap: (
    <>
      {block}
      <path d="M3 14H32M41 14H69" {...ROD} />
      <path d="M32 11L35 14L31 17M41 11L38 14L42 17" {...HURT} strokeWidth={1.4} />
    </>
  ),
  squash: (
    <>
      {block}
      <path d="M3 14H31M41 14H69" {...ROD} />
      <path d="M31 14L33 10L36 18L39 10L41 14" {...HURT} />
    </>
  ),
  buckle: (
    <>
      {block}
      <path d="M3 17H20M52 17H69" {...ROD} />
      <path d="M20 17Q28 17 36 11T52 17" {...HURT} strokeWidth={3} />
    </>
  ),
  slide: (
    <>
      {block}
      <path d="M9 8H71" {...ROD} />
      <path d="M3 11.5H9M14 4.5H4M7 2L4 4.5L7 7" {...HURT} strokeWidth={1.4} />
    </>
  ),
  peel: (
    <>
      {block}
      <path d="M3 8H42" {...SKIN} />
      <path d="M42 8Q54 8 60 1" {...HURT} strokeWidth={2.4} />
    </>
  ),
  pull: (
    <>
      <path d="M3 9H31V26H3Z M69 9H41V26H69Z" {...FOAM} />
      <path d="M31 9V26M41 9V26" {...HURT} />
      <path d="M20 17H9M12 14L8 17L12 20M52 17H63M60 14L64 17L60 20" {...ROD} strokeWidth={1.4} />
    </>
  ),
};

/** What a failure looks like, drawn beside its words; nothing where there is none to draw. */
export function FailureSketch({ kind, where = "" }: { kind: string; where?: string }) {
  const look = LOOKS[kind];
  if (!look) return null;
  return (
    <svg viewBox="0 0 72 30" width={72} height={30} aria-hidden="true" data-look={look} className="shrink-0">
      <g transform={where === "lower" ? "matrix(1 0 0 -1 0 31)" : undefined}>{DRAWN[look]}</g>
    </svg>
  );
}
