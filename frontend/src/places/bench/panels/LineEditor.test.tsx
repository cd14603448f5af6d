import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Catalogue, Layer, Part } from "../../../api/client";
import { LineEditor } from "./LineEditor";

afterEach(cleanup);

const named = (key: string, more: object = {}) => ({
  key,
  name: key.replace("_", " "),
  family: "f",
  ...more,
});
const catalogue = {
  bars: [
    named("carbon_rod", { shape: "rod" }),
    named("spruce_flat", { shape: "flat" }),
    named("pine_flat", { shape: "flat" }),
  ],
  skins: [named("tape"), named("film")],
  cloths: [],
  sheets: [
    named("board", { build: "faced", areal_mass_g_m2: { typ: 500 } }),
    named("fluted", { build: "twin_wall", areal_mass_g_m2: { typ: 600 } }),
  ],
  cords: [named("glass_cord"), named("carbon_cord", { note: "note of carbon" })],
  fittings: [named("servo", { long_mm: 20, wide_mm: 10, high_mm: 8, mass_g: { typ: 9 }, grade: "B" })],
  fasteners: [
    named("nylon_bolt", { family: "bolt" }),
    named("blind", { family: "blind_nut" }),
    named("band", { family: "band" }),
  ],
  hinges: [named("tape_hinge", { grade: "B" }), named("sewn", { grade: "C" })],
  adhesives: [
    named("contact", { techniques: { flashed: "aired", wet: "wet" }, attacks: [], grade: "B" }),
    named("solvent", { techniques: { plain: "plain" }, attacks: ["epp_30"], grade: "B" }),
  ],
  sorts: { f: "composite" },
  sides: [
    { key: "epp_30", name: "Bead foam", group: "Foam" },
    { key: "board", name: "Board", group: "Sheet" },
  ],
  bar_g_per_m: { carbon_rod: 11 },
} as unknown as Catalogue;
const part = {
  id: "wing", kind: "surface", span_mm: 600, root_chord_mm: 200, tip_chord_mm: 160, foam: "epp_30",
  root_thickness_mm: 20, tip_thickness_mm: 16, layers: [],
} as unknown as Part; // prettier-ignore

const shared = { id: "l", name: "", note: "", start_mm: 0, end_mm: null, root_percent: 30, tip_percent: 40 };
const bar = { ...shared, type: "bar", stock: "carbon_rod", place: "pair", cover_mm: 0.5, end_size_percent: 100, splices: [], sleeve: null, faced_with: null, joined_at_root: true } as unknown as Layer; // prettier-ignore
const strip = { ...shared, type: "strip", skin: "tape", face: "upper", plies: 1, width_mm: 50, end_width_mm: null, drop_mm: 0, laid: "together" } as unknown as Layer; // prettier-ignore
const film = { ...shared, type: "film", skin: "film", face: "both", plies: 1, tape_width_mm: null, overlap_mm: 0, laid: "together" } as unknown as Layer; // prettier-ignore
const wall = { ...shared, type: "wall", sheet: "board", face: "both", grain: "along", plies: 1, paper: "both", formed: "plain" } as unknown as Layer; // prettier-ignore
const cut = { ...shared, type: "cut", face: "upper", width_mm: 40, depth_mm: 10, corner_radius_mm: 2 } as unknown as Layer; // prettier-ignore
const cord = { ...shared, type: "cord", cord: "glass_cord", face: "both" } as unknown as Layer;
const fitting = { ...shared, type: "fitting", stock: "servo", face: "lower", pocket: true, upright: false, clearance_mm: 0.5 } as unknown as Layer; // prettier-ignore
const hinge = { ...shared, type: "hinge", method: "tape_hinge", line: "top", bevel_deg: 45, gap_mm: 0.5, horn_arm_mm: 15 } as unknown as Layer; // prettier-ignore
const joint = (its: object) =>
  ({ ...shared, type: "joint", chord_percent: 50, glue: null, joint: its }) as unknown as Layer;
const plate = { kind: "plate", sheet: "board", face: "lower", load: "given", long_mm: 40, wide_mm: 30, pull_N: 10, slide_N: 0, arm_mm: 5, screws: 2, screw_mm: 2, keys: 0 }; // prettier-ignore
const bolted = { kind: "bolted", bolt: "nylon_bolt", bolts: 2, apart_mm: 60, washer_mm: 15, plate: null };
const banded = { kind: "banded", band: "band", bands: 4, months: 6, peg: "carbon_rod", peg_in_mm: 30 };
const across = { kind: "across", parted: "core", faces: "scarf", slope: 6, reached: "all", extent: null, bridges: [], braces: [{ stock: "carbon_rod", count: 1, each_side_mm: 60, deep_mm: null, glued: true }] }; // prettier-ignore
const seam = { kind: "wall", face: "all", along_mm: null, straps: [{ stock: "spruce_flat", lies: "outside", count: 2, wide_mm: null, each_side_mm: 40 }] }; // prettier-ignore

/** The editor of a line, and what it makes of it. */
function shown(layer: Layer, of: Part = part) {
  const change = vi.fn<(layer: Layer | null) => void>();
  const duplicate = vi.fn();
  render(
    <MemoryRouter>
      <LineEditor
        {...{ layer, part: of, catalogue, change, duplicate }}
        problems={[]}
        path="parts[0].layers[0]"
      />
    </MemoryRouter>,
  );
  return { change, duplicate };
}

/** Type into a figure's field, choose from a list, or tick: whichever carries this label. */
function fill(label: string, value: string | boolean) {
  const field = screen.getAllByLabelText<HTMLInputElement | HTMLSelectElement>(label)[0]!;
  if (typeof value === "boolean") fireEvent.click(field);
  else fireEvent.change(field, { target: { value } });
}

describe("every field of a line changes its own figure and leaves the rest", () => {
  it.each<[string, Layer, string, string | boolean, object]>([
    ["bar", bar, "Spar", "spruce_flat", { stock: "spruce_flat" }],
    ["bar", bar, "Position", "middle", { place: "middle" }],
    ["bar", bar, "Foam cover", "1.5", { cover_mm: 1.5 }],
    ["bar", bar, "Continues through root", true, { joined_at_root: false }],
    ["bar", bar, "Size at far end", "60", { end_size_percent: 60 }],
    ["bar", bar, "Chord position, root", "33", { root_percent: 33 }],
    ["bar", bar, "Chord position, tip", "44", { tip_percent: 44 }],
    ["bar", bar, "From", "20", { start_mm: 20 }],
    ["bar", bar, "To", "500", { end_mm: 500 }],
    ["bar", bar, "Item name", "main", { name: "main" }],
    ["bar", bar, "Note", "glue it dry", { note: "glue it dry" }],
    ["strip", strip, "Material", "film", { skin: "film" }],
    ["strip", strip, "Face", "lower", { face: "lower" }],
    ["strip", strip, "Plies", "2", { plies: 2 }],
    ["strip", strip, "Width", "35", { width_mm: 35 }],
    ["strip", strip, "Width at far end", "20", { end_width_mm: 20 }],
    ["film", film, "Strip width", "50", { tape_width_mm: 50 }],
    ["film", film, "Strip overlap", "4", { overlap_mm: 4 }],
    ["film", film, "Order of faces", "upper_first", { laid: "upper_first" }],
    ["film", film, "Shrinkage or pre-stretch, %", "0.4", { shrink_percent: 0.4 }],
    ["wall", wall, "Sheet", "fluted", { sheet: "fluted" }],
    ["wall", wall, "Position", "web", { face: "web" }],
    ["wall", wall, "Grain direction", "across", { grain: "across" }],
    ["wall", wall, "Paper kept on", "outer", { paper: "outer" }],
    ["wall", wall, "How it is bent", "scored", { formed: "scored" }],
    ["cut", cut, "Cut-out", "through", { face: "through" }],
    ["cut", cut, "Width", "30", { width_mm: 30 }],
    ["cut", cut, "Depth in foam", "12", { depth_mm: 12 }],
    ["cut", cut, "Corner radius", "5", { corner_radius_mm: 5 }],
    ["cut", cut, "Whole face (removes its skins)", true, { width_mm: null }],
    ["cord", cord, "Cord", "carbon_cord", { cord: "carbon_cord" }],
    ["cord", cord, "Edge", "rear", { face: "rear" }],
    ["fitting", fitting, "Position", "upper", { face: "upper" }],
    ["fitting", fitting, "Your measurement", "8.5", { weighed_g: 8.5 }],
    ["fitting", fitting, "On its narrow side", true, { upright: true }],
    ["fitting", fitting, "Clearance around it", "1", { clearance_mm: 1 }],
    ["fitting", fitting, "To", "90", { end_mm: 90 }],
    ["hinge", hinge, "Hinge type", "sewn", { method: "sewn" }],
    ["hinge", hinge, "Hinge line at", "bottom", { line: "bottom" }],
    ["hinge", hinge, "Bevel angle, total", "30", { bevel_deg: 30 }],
    ["hinge", hinge, "Gap", "1", { gap_mm: 1 }],
    ["hinge", hinge, "Horn arm", "18", { horn_arm_mm: 18 }],
    ["joint", joint(plate), "Chord position", "25", { chord_percent: 25 }],
  ])("%s %#", (_, layer, label, value, changed) => {
    const { change } = shown(layer);
    fill(label, value);
    expect(change).toHaveBeenLastCalledWith({ ...layer, ...changed });
  });
});

describe("every field of a joint changes its own figure and leaves the rest", () => {
  it.each<[string, object, string, string | boolean, object]>([
    ["plate", plate, "Plate", "fluted", { sheet: "fluted" }],
    ["plate", plate, "Along the part", "55", { long_mm: 55 }],
    ["plate", plate, "Across", "25", { wide_mm: 25 }],
    ["plate", plate, "Glued to", "upper", { face: "upper" }],
    ["plate", plate, "Load", "rod", { load: "rod" }],
    ["plate", plate, "Pull-off force", "20", { pull_N: 20 }],
    ["plate", plate, "Sideways force", "4", { slide_N: 4 }],
    ["plate", plate, "Height above face", "8", { arm_mm: 8 }],
    ["plate", plate, "Screws", "4", { screws: 4 }],
    ["plate", plate, "Screw diameter", "3", { screw_mm: 3 }],
    ["plate", plate, "Glue-filled holes", "3", { keys: 3 }],
    ["bolted", bolted, "Bolt", "blind", { bolt: "blind" }],
    ["bolted", bolted, "Bolts", "3", { bolts: 3 }],
    ["bolted", bolted, "Washer diameter", "20", { washer_mm: 20 }],
    ["bolted", bolted, "Plate underneath", "board", { plate: "board" }],
    ["banded", banded, "Number of bands", "6", { bands: 6 }],
    ["banded", banded, "Band age, months", "12", { months: 12 }],
    ["banded", banded, "Peg", "spruce_flat", { peg: "spruce_flat" }],
    ["banded", banded, "Peg length in foam", "40", { peg_in_mm: 40 }],
    ["across", across, "What is joined here", "all", { parted: "all" }],
    ["across", across, "Face joint", "butt", { faces: "butt" }],
    ["across", across, "Scarf slope, 1 :", "8", { slope: 8 }],
    ["across", across, "Condition of faces", "worked_in", { reached: "worked_in" }],
    ["across", across, "Number", "2", { braces: [{ ...across.braces[0], count: 2 }] }],
    ["across", across, "Length each side", "80", { braces: [{ ...across.braces[0], each_side_mm: 80 }] }],
    ["across", across, "Glued in", true, { braces: [{ ...across.braces[0], glued: false }] }],
    // a plate takes a height that fits; a rod has none
    [
      "across",
      across,
      "Material",
      "board",
      { braces: [{ ...across.braces[0], stock: "board", deep_mm: 9 }] },
    ],
    ["wall", seam, "What is in two", "lower", { face: "lower" }],
    ["wall", seam, "Seam along an edge, length", "120", { along_mm: 120 }],
    ["wall", seam, "Lie", "both", { straps: [{ ...seam.straps[0], lies: "both" }] }],
    ["wall", seam, "On each wall", "3", { straps: [{ ...seam.straps[0], count: 3 }] }],
    ["wall", seam, "Width", "15", { straps: [{ ...seam.straps[0], wide_mm: 15 }] }],
  ])("%s %#", (_, its, label, value, changed) => {
    const layer = joint(its);
    const { change } = shown(layer);
    fill(label, value);
    expect(change).toHaveBeenLastCalledWith({ ...layer, joint: { ...its, ...changed } });
  });

  it("a plate on a wall is clamped by sheet inside it, one on foam is keyed into it", () => {
    const hollow = { ...part, foam: null } as unknown as Part;
    const layer = joint({ ...plate, backed: null });
    const { change } = shown(layer, hollow);
    expect(screen.queryByLabelText("Glue-filled holes")).toBeNull();
    fill("Sheet inside, clamped by the screws", "board");
    expect(change).toHaveBeenLastCalledWith(joint({ ...plate, backed: "board" }));
    fill("Sheet inside, clamped by the screws", "");
    expect(change).toHaveBeenLastCalledWith(joint({ ...plate, backed: null }));
    cleanup();
    shown(layer);
    expect(screen.queryByLabelText("Sheet inside, clamped by the screws")).toBeNull();
  });

  it("braces and straps come and go", () => {
    const first = joint({ ...across, braces: [] });
    const { change } = shown(first);
    fireEvent.click(screen.getByRole("button", { name: "Add brace" }));
    const told = change.mock.lastCall![0] as unknown as { joint: typeof across };
    expect(told.joint.braces).toMatchObject([{ stock: "carbon_rod_3", count: 1, glued: true }]);
    cleanup();
    const second = shown(joint(seam));
    fireEvent.click(screen.getByRole("button", { name: /Remove ?straps 1/ }));
    expect(second.change).toHaveBeenLastCalledWith(joint({ ...seam, straps: [] }));
  });
});

describe("an item", () => {
  it("that ends where the part ends is left open", () => {
    const { change } = shown({ ...bar, end_mm: 400 });
    fill("To", "600");
    expect(change).toHaveBeenLastCalledWith({ ...bar, end_mm: null });
  });

  it("whose two widths are the same keeps one", () => {
    const { change } = shown({ ...strip, end_width_mm: 20 } as Layer);
    fill("Width at far end", "50");
    expect(change).toHaveBeenLastCalledWith({ ...strip, end_width_mm: null });
  });

  it("is copied and taken out", () => {
    const { change, duplicate } = shown(bar);
    fireEvent.click(screen.getByRole("button", { name: "Duplicate" }));
    expect(duplicate).toHaveBeenCalledOnce();
    fireEvent.click(screen.getByRole("button", { name: "Remove" }));
    expect(change).toHaveBeenLastCalledWith(null);
  });

  it("level within the part is measured above its lower face", () => {
    shown({ ...wall, face: "level" } as Layer);
    expect(screen.getByLabelText("Height at root")).toBeTruthy();
    expect(screen.queryByLabelText("Chord position, root")).toBeNull();
    expect(screen.queryByLabelText("How it is bent")).toBeNull();
  });

  it("of twin-wall has flutes and no paper", () => {
    shown({ ...wall, sheet: "fluted" } as Layer);
    expect(screen.getByLabelText("Flute direction")).toBeTruthy();
    expect(screen.queryByLabelText("Paper kept on")).toBeNull();
  });

  it("of bar spliced in a sleeve may be bound with thread", () => {
    const splice = { at_mm: 300, overlap_mm: 60, how: "side_by_side", bound: false };
    const { change } = shown({ ...bar, splices: [splice] } as unknown as Layer);
    expect(screen.queryByLabelText("Thread bound round the mouths of the tube")).toBeNull();
    fill("Splice 1 type", "sleeved");
    const sleeved = { ...bar, splices: [{ ...splice, how: "sleeved" }] };
    expect(change).toHaveBeenLastCalledWith(sleeved);
    cleanup();
    const again = shown(sleeved as unknown as Layer);
    fill("Thread bound round the mouths of the tube", true);
    expect(again.change).toHaveBeenLastCalledWith({
      ...bar,
      splices: [{ ...splice, how: "sleeved", bound: true }],
    });
  });

  it("takes an own laminate, and a table material again", () => {
    const { change } = shown(strip);
    fill("Material", "@laminate");
    expect(change.mock.lastCall![0]).toMatchObject({ skin: { resin: "epoxy_laminating" } });
  });
});

describe("what depends on the rest of a line", () => {
  const labels = (layer: object, of: Part = part) => {
    cleanup();
    shown(layer as Layer, of);
    return (label: string) => screen.queryByLabelText(label) !== null;
  };

  it("a strip of several plies drops them, one of one ply does not", () => {
    expect(labels(strip)("Ply drop-off spacing")).toBe(false);
    expect(labels({ ...strip, plies: 2 })("Ply drop-off spacing")).toBe(true);
  });

  it("a slit in an edge has no width and no place along the chord", () => {
    for (const face of ["front", "rear"]) {
      const has = labels({ ...cut, face });
      expect(has("Width")).toBe(false);
      expect(has("Chord position, root")).toBe(false);
    }
    expect(labels(cut)("Width")).toBe(true);
  });

  it("a cord says what is told of it", () => {
    shown({ ...cord, cord: "carbon_cord" } as Layer);
    expect(screen.getByText("note of carbon")).toBeTruthy();
  });

  it("a butt joint has no slope, and an open one no glue between its faces", () => {
    expect(labels(joint({ ...across, faces: "butt" }))("Scarf slope, 1 :")).toBe(false);
    expect(labels(joint({ ...across, faces: "open" }))("Condition of faces")).toBe(false);
    expect(labels(joint(across))("Condition of faces")).toBe(true);
  });

  it("skins that bridge a joint are ticked on and off, bars are not asked for", () => {
    const lines = [{ ...strip, id: "s", name: "Strip" }, { ...film, id: "f", name: "Film" }, { ...wall, id: "w", name: "Wall" }, { ...bar, id: "b", name: "Spar" }] as unknown as Layer[]; // prettier-ignore
    const layer = joint({ ...across, bridges: ["f", "w"] });
    const { change } = shown(layer, { ...part, layers: lines });
    const box = within(screen.getByRole("group", { name: "Bridges the joint" }));
    expect(box.getAllByRole("checkbox").map((b) => (b as HTMLInputElement).checked)).toEqual([
      false,
      true,
      true,
    ]);
    fireEvent.click(box.getAllByRole("checkbox")[0]!);
    expect(change).toHaveBeenLastCalledWith(joint({ ...across, bridges: ["f", "w", "s"] }));
    fireEvent.click(box.getAllByRole("checkbox")[1]!);
    expect(change).toHaveBeenLastCalledWith(joint({ ...across, bridges: ["w"] }));
    cleanup();
    shown(joint(across));
    expect(screen.queryByRole("group", { name: "Bridges the joint" })).toBeNull();
  });

  it("only a flat bar is faced, with another flat one; a sleeve is round", () => {
    expect(labels(bar)("Facing strips")).toBe(false);
    cleanup();
    shown({ ...bar, stock: "spruce_flat" } as Layer);
    const offered = (label: string) =>
      [...screen.getByLabelText<HTMLSelectElement>(label).querySelectorAll("option")].map((o) => o.value);
    expect(offered("Facing strips")).toEqual(["", "pine_flat"]);
    expect(offered("Sleeve over or core inside")).toEqual(["", "carbon_rod"]);
  });

  it("a bar is spliced in its middle, at four places at most, each by its number", () => {
    const { change } = shown({ ...bar, start_mm: 100, end_mm: 500 });
    fireEvent.click(screen.getByRole("button", { name: "Add a splice" }));
    expect(change.mock.lastCall![0]).toMatchObject({
      splices: [{ at_mm: 300, overlap_mm: 60, how: "side_by_side", bound: false }],
    });
    const splice = { at_mm: 200, overlap_mm: 60, how: "scarf", bound: false };
    cleanup();
    const four = shown({ ...bar, splices: [splice, splice, splice, splice] } as unknown as Layer);
    expect(screen.queryByRole("button", { name: "Add a splice" })).toBeNull();
    fill("Splice 3 position", "250");
    expect(four.change.mock.lastCall![0]).toMatchObject({
      splices: [splice, splice, { ...splice, at_mm: 250 }, splice],
    });
    fireEvent.click(screen.getByRole("button", { name: "Remove splice 2" }));
    expect((four.change.mock.lastCall![0] as unknown as { splices: object[] }).splices).toHaveLength(3);
  });

  it.each([
    [{}, false],
    [{ end_size_percent: 60 }, true],
    [{ faced_with: "pine_flat" }, true],
    [{ sleeve: { stock: "carbon_rod", start_mm: 0, end_mm: 50 } }, true],
  ])("how a bar is made up stands open where it is anything but plain: %o", (more, open) => {
    const { container } = render(
      <MemoryRouter>
        <LineEditor
          {...{ layer: { ...bar, ...more }, part, catalogue, change: vi.fn(), duplicate: vi.fn() }}
          problems={[]}
          path="p"
        />
      </MemoryRouter>,
    );
    expect(container.querySelector("details")!.open).toBe(open);
  });
});

describe("the glue of a joint", () => {
  it("is one that leaves the foam whole, and comes with its ways", () => {
    const { change } = shown(joint(across));
    const glues = within(screen.getByLabelText("Adhesive"))
      .getAllByRole("option")
      .map((o) => o.textContent);
    expect(glues).toEqual(["none", "contact"]);
    fill("Adhesive", "contact");
    expect(change).toHaveBeenLastCalledWith({
      ...joint(across),
      glue: { adhesive: "contact", technique: null, after_min: null },
    });
  });

  it("keeps what is said of it while one thing changes, and goes again", () => {
    const layer = {
      ...joint(across),
      glue: { adhesive: "contact", technique: "wet", after_min: 30 },
    } as Layer;
    const { change } = shown(layer);
    fill("Application", "flashed");
    expect(change).toHaveBeenLastCalledWith({ ...layer, glue: { adhesive: "contact", technique: "flashed", after_min: 30 } }); // prettier-ignore
    fill("Minutes since closing", "90");
    expect(change).toHaveBeenLastCalledWith({ ...layer, glue: { adhesive: "contact", technique: "wet", after_min: 90 } }); // prettier-ignore
    fill("Adhesive", "");
    expect(change).toHaveBeenLastCalledWith({ ...layer, glue: null });
  });

  it("is asked of the chooser with what meets what", () => {
    const asked = (layer: Layer, of: Part = part) => {
      cleanup();
      shown(layer, of);
      return screen.getByRole("link", { name: "Choose a glue" }).getAttribute("href");
    };
    expect(asked(joint(plate))).toBe("/joints?what=glue&one=epp_30&other=board");
    expect(asked(joint({ ...plate, sheet: "fluted" }))).toBe("/joints?what=glue&one=epp_30&other=composite");
    expect(asked(joint(across))).toBe("/joints?what=glue&one=epp_30&other=epp_30");
    // a hollow part is its walls
    const hollow = { ...part, foam: null, layers: [{ ...wall, id: "w" }] } as unknown as Part;
    expect(asked(joint(seam), hollow)).toBe("/joints?what=glue&one=board&other=board");
    expect(asked(joint({ kind: "bond", of: "b" }), { ...hollow, layers: [...hollow.layers, { ...bar, id: "b" }] })).toBe("/joints?what=glue&one=board&other=composite"); // prettier-ignore
  });
});
