import { describe, expect, it } from "vitest";
import { ownUuid } from "../../forms/ids";
import { clocksOf, countdown, nextSteps, stepsNow, titleOf, type Press } from "./bench";
import type { Operation, Plan, Planned } from "./shop";

const at = (minutes: number) => new Date(Date.UTC(2026, 5, 1, 9, minutes)).toISOString();
const ms = (minutes: number) => new Date(at(minutes)).getTime();

function step(key: string, after: Operation["after"] = [], more: Partial<Operation> = {}): Operation {
  return {
    key,
    part_id: null,
    layer_id: null,
    piece: "",
    title: `do ${key}`,
    minutes: { low: 10, typ: 20, high: 40, causes: [] },
    people: 1,
    glue: "",
    glue_key: "",
    fixed_min: 0,
    loaded_min: 0,
    after,
    hold: {},
    tools: [],
    gates: [],
    cards: [],
    cautions: [],
    undoes: true,
    made_of: "",
    daylight: false,
    how: "",
    never: [],
    ...more,
  };
}

const OPERATIONS = [
  step("core"),
  step("spar", [{ key: "core", wait_min: 0, why: "" }], {
    glue: "epoxy",
    fixed_min: 60,
    loaded_min: 200,
    gates: [{ key: "dry_fit", says: "Dry fit.", waivable: true }],
  }),
  step("film", [{ key: "spar", wait_min: 60, why: "" }]),
];

function plan(planned: Partial<Planned>[] = [{}, {}, {}]): Plan {
  return {
    operations: OPERATIONS,
    planned: OPERATIONS.map((o, n) => ({
      key: o.key,
      begins: at(100 * n),
      ends: at(100 * n + 20),
      sets: null,
      loaded: null,
      state: "open",
      gates: o.gates.map((g) => ({ key: g.key, stands: "open", value: null, note: "", knows: [] })),
      notes: [],
      ...planned[n],
    })),
  } as unknown as Plan;
}

const press = (what: Press["what"], key: string, minutes: number, more: Partial<Press> = {}): Press => ({
  id: ownUuid(),
  at: at(minutes),
  what,
  key,
  gate: "",
  result: "",
  value: null,
  note: "",
  knows: [],
  made_of: "",
  ...more,
});

describe("what was pressed counts before the plan knows it", () => {
  it("runs, lasts longer, is done, is taken back", () => {
    const one = (...presses: Press[]) => stepsNow(plan(), presses)[0]!;
    expect(one(press("begun", "core", 3))).toMatchObject({ state: "running", begins: at(3), ends: at(23) });
    expect(one(press("begun", "core", 3), press("more", "core", 5, { value: 15 })).ends).toBe(at(38));
    expect(one(press("done", "core", 30))).toMatchObject({ state: "done", ends: at(30), sets: null });
    expect(one(press("done", "core", 30), press("undone", "core", 31)).state).toBe("open");
    expect(one(press("begun", "core", 3), press("begun", "core", 9)).begins).toBe(at(3));
    expect(stepsNow(plan(), [press("done", "core", 30)])[1]!.state).toBe("open");
  });

  it("sets from when it was done on", () => {
    const spar = stepsNow(plan(), [press("done", "spar", 50)])[1]!;
    expect([spar.sets, spar.loaded]).toEqual([at(110), at(250)]);
    const wrong = stepsNow(plan(), [press("not_right", "spar", 50)])[1]!;
    expect(wrong.state).toBe("done");
  });

  it("keeps how a gate stands, and every press that led there", () => {
    const failed = press("gate", "spar", 5, { gate: "dry_fit", result: "failed", value: 2 });
    const passed = press("gate", "spar", 6, { gate: "dry_fit", result: "passed", note: "filed" });
    const gate = stepsNow(plan(), [failed, passed])[1]!.gates[0]!;
    expect(gate).toMatchObject({
      stands: "passed",
      value: null,
      note: "filed",
      knows: [failed.id, passed.id],
    });
    const undone = stepsNow(plan(), [failed, press("undone", "spar", 7)])[1]!.gates[0]!;
    expect(undone.stands).toBe("open");
  });
});

describe("what hands can be put to now", () => {
  const next = (presses: Press[], minutes: number) =>
    nextSteps(stepsNow(plan(), presses), ms(minutes)).map((s) => s.o.key);

  it("waits for what comes before, and for what sets", () => {
    expect(next([], 0)).toEqual(["core"]);
    expect(next([press("done", "core", 20)], 20)).toEqual(["spar"]);
    const glued = [press("done", "core", 20), press("done", "spar", 40)];
    expect(next(glued, 99)).toEqual([]);
    expect(next(glued, 100)).toEqual(["film"]);
  });

  it("puts what runs first", () => {
    expect(next([press("done", "core", 20), press("begun", "spar", 21)], 22)).toEqual(["spar"]);
  });
});

describe("clocks", () => {
  const glued = [press("done", "spar", 40)];
  const at_ = (minutes: number) => clocksOf(stepsNow(plan(), glued), ms(minutes)).map((c) => c.ends);

  it("ring the soonest first and are forgotten an hour later", () => {
    expect(at_(41)).toEqual([at(100), at(240)]);
    expect(at_(159)).toEqual([at(100), at(240)]);
    expect(at_(161)).toEqual([at(240)]);
    expect(at_(301)).toEqual([]);
  });

  it("count minutes and seconds, then hours", () => {
    expect(countdown(at(10), ms(8) + 55_000)).toBe("1:05");
    expect(countdown(at(0), ms(3))).toBe("3:00");
    expect(countdown(at(125), ms(0))).toBe("2 h 05");
  });
});

it("calls a step by what is done on which piece", () => {
  expect(titleOf(step("a", [], { piece: "Wing, left" }))).toBe("Do a, Wing, left");
  expect(titleOf(step("a"))).toBe("Do a");
});

it("makes ids that every device can make and none twice", () => {
  const made = new Set(Array.from({ length: 200 }, ownUuid));
  expect(made.size).toBe(200);
  for (const id of made)
    expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
});
