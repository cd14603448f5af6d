import { describe, expect, it } from "vitest";
import type { Estimate, Part } from "../../api/client";
import { facesOf, isSeen, middleOf, normalOf, stationsOf, topAt, turned, type Spot } from "./spaceModel";

const box = (chord: number): [number, number][] => [
  [0, 0],
  [chord, 0],
  [chord, 20],
  [0, 20],
];

const cut = (y_mm: number, chord: number, setback_mm: number) => ({
  y_mm,
  chord_mm: chord,
  thickness_mm: 20,
  setback_mm,
  outline: box(chord),
  hollow: false,
  skins: [
    {
      line_id: "film",
      face: "upper",
      wall: false,
      thickness_mm: 0.1,
      points: [box(chord)[2], box(chord)[3]],
    },
  ],
  bars: [
    {
      line_id: "rod",
      side: "upper",
      shape: "round",
      x_mm: 40,
      z_mm: 10,
      width_mm: 3,
      height_mm: 3,
      bore_mm: 0,
    },
  ],
  holes: [],
  cords: [],
  things: [],
});

const estimate = {
  span_mm: 600,
  stretches: [{ root_side: cut(0, 150, 0), tip_side: cut(600, 100, 50) }],
  curves: { y_mm: [0, 300, 600], deflection_mm: [0, 10, 40], twist_deg: [0, 0, 0] },
} as unknown as Estimate;

const wing = {
  id: "w",
  kind: "wing",
  hand: "both",
  span_mm: 600,
  place: { x_mm: 200, y_mm: 20, z_mm: 30, dihedral_deg: 0 },
  damage: [],
} as unknown as Part;

const spotsOf = (part: Part, load: number) => facesOf(part, estimate, load).flatMap((f) => f.spots);
const most = (spots: Spot[], i: 0 | 1 | 2) => Math.max(...spots.map((s) => s[i]));
const least = (spots: Spot[], i: 0 | 1 | 2) => Math.min(...spots.map((s) => s[i]));

describe("an airframe in space", () => {
  it("has a mirrored part on both sides, at its place, swept", () => {
    const spots = spotsOf(wing, 0);
    expect([least(spots, 0), most(spots, 0)]).toEqual([200, 350]);
    expect([least(spots, 1), most(spots, 1)]).toEqual([-620, 620]);
    expect([least(spots, 2), most(spots, 2)]).toEqual([30, 50]);
    const tips = spots.filter((s) => s[1] === 620).map((s) => s[0]);
    expect([Math.min(...tips), Math.max(...tips)]).toEqual([250, 350]);
  });

  it("bends by its deflection times the load, and not at the root", () => {
    const spots = spotsOf(wing, 2);
    expect(most(spots, 2)).toBeCloseTo(50 + 80);
    expect(
      most(
        spots.filter((s) => s[1] === 20),
        2,
      ),
    ).toBe(50);
  });

  it("twists nose up about a third of its chord, times the load", () => {
    const twisted = {
      ...estimate,
      curves: { y_mm: [0, 600], deflection_mm: [0, 0], twist_deg: [0, 45] },
    } as unknown as Estimate;
    const tip = facesOf({ ...wing, hand: "right" }, twisted, 2)
      .flatMap((f) => f.spots)
      .filter((s) => Math.abs(s[1] - 620) < 1e-9);
    // a right angle: the chord of 100 mm stands upright about 30 mm of it, the nose uppermost
    expect([least(tip, 2), most(tip, 2)].map(Math.round)).toEqual([30 - 70, 30 + 30]);
    expect([least(tip, 0), most(tip, 0)].map(Math.round)).toEqual([250 + 30, 250 + 50]);
  });

  it("shows hinges of control surfaces and a jag where it is damaged, on the upper face", () => {
    const marked = {
      ...wing,
      hand: "right",
      control: { start_mm: 300, end_mm: 600, chord_percent: 20 },
      damage: [{ id: "m", kind: "crease", at_mm: 300 }],
    } as unknown as Part;
    const lines = facesOf(marked, estimate, 0);
    const hinge = lines.find((f) => f.tone === "hinge")!.spots;
    expect(hinge.map((s) => [Math.round(s[0]), Math.round(s[1]), Math.round(s[2])])).toEqual([
      [350, 320, 50],
      [325, 320, 50], // setback 25 and 80 % of 125 mm behind the root's nose at 200
      [330, 620, 50],
      [350, 620, 50],
    ]);
    const jag = lines.find((f) => f.tone === "damage")!.spots;
    expect([least(jag, 1), most(jag, 1)]).toEqual([320 - 7.2, 320 + 7.2]);
  });

  it("knows the height of its upper face", () => {
    const roof = [[0, 0], [50, 20], [100, 0]] as const; // prettier-ignore
    expect([0, 25, 50, 90, 120].map((x) => topAt(roof, x))).toEqual([0, 10, 20, 4, 0]);
  });

  it("rises with dihedral; upright it stands", () => {
    const fin = { ...wing, hand: "single", place: { ...wing.place, dihedral_deg: 90 } } as Part;
    const spots = spotsOf(fin, 0);
    expect(most(spots, 2)).toBeCloseTo(630);
    expect(most(spots, 1) - least(spots, 1)).toBeCloseTo(20);
  });

  it("lays a fuselage along the airframe about its middle", () => {
    const boom = { ...wing, kind: "fuselage", hand: "single" } as Part;
    const spots = spotsOf(boom, 0);
    expect([least(spots, 0), most(spots, 0)]).toEqual([200, 800]);
    expect(
      most(
        spots.filter((s) => s[0] === 200),
        1,
      ) -
        least(
          spots.filter((s) => s[0] === 200),
          1,
        ),
    ).toBe(150);
  });

  it("holds what is bonded on it and the spars in it", () => {
    const tones = facesOf({ ...wing, hand: "left" }, estimate, 1).map((f) => f.tone);
    const gaps = stationsOf(estimate).length - 1;
    expect(tones.filter((t) => t === "spar")).toHaveLength(gaps);
    expect(tones.filter((t) => t === "skin")).toHaveLength(gaps);
    expect(tones.filter((t) => t === "foam")).toHaveLength(4 * gaps + 2);
  });

  it("turns without a change of size: seen from behind left is right, from above aft is down", () => {
    const spot: Spot = [3, 4, 5];
    for (const [turn, tilt] of [
      [0, 0],
      [37, 21],
      [180, -60],
    ] as const)
      expect(Math.hypot(...turned(spot, turn, tilt))).toBeCloseTo(Math.hypot(...spot));
    expect(turned([1, 0, 0], 0, 0)[0]).toBeCloseTo(1);
    expect(turned([1, 0, 0], 180, 0)[0]).toBeCloseTo(-1);
    expect(turned([0, 1, 0], 0, 90)[1]).toBeCloseTo(1);
    expect(turned([0, 0, 1], 0, 90)[2]).toBeCloseTo(1);
  });

  it("shows the outer side of what faces the eye, whichever way round it is drawn", () => {
    const near: Spot[] = [
      [0, 0, 10],
      [5, 0, 10],
      [5, 5, 10],
    ];
    expect(normalOf(near)[2]).toBeCloseTo(1);
    expect(middleOf(near)[2]).toBe(10);
    const inside: Spot = [2, 2, 0];
    expect(isSeen({ spots: near, tone: "foam", inside })).toBe(true);
    expect(isSeen({ spots: [...near].reverse(), tone: "foam", inside })).toBe(true);
    expect(isSeen({ spots: near.map(([x, y, z]): Spot => [x, y, -z]), tone: "foam", inside })).toBe(false);
    expect(isSeen({ spots: near, tone: "spar" })).toBe(true);
  });
});
