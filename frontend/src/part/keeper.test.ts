import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Airframe, AirframeOut } from "../api/client";
import { Keeper, type Answer, type News, type Store } from "./keeper";

const document = (name: string): Airframe => ({ name, all_up_mass_g: 900 }) as Airframe;
const state = (revision: number, name: string): AirframeOut =>
  ({ id: "a", revision, document: document(name), can_undo: revision > 1, can_redo: false }) as AirframeOut;

class Shelf {
  kept = new Map<string, string>();
  getItem = (key: string) => this.kept.get(key) ?? null;
  setItem = (key: string, value: string) => void this.kept.set(key, value);
  removeItem = (key: string) => void this.kept.delete(key);
}

/** A store with one document and real revision numbers. */
class FakeStore implements Store {
  reachable = true;
  saved: string[] = [];
  constructor(public head: AirframeOut) {}
  async save(_: string, revision: number, doc: Airframe): Promise<Answer> {
    if (!this.reachable) return { kind: "unreachable" };
    if (revision !== this.head.revision) return { kind: "stale", state: this.head };
    if (doc.name === "") return { kind: "invalid", problems: [{ path: "name", message: "is too short" }] };
    this.saved.push(doc.name);
    this.head = state(revision + 1, doc.name);
    return { kind: "ok", state: this.head };
  }
  async step(): Promise<Answer> {
    if (!this.reachable) return { kind: "unreachable" };
    return { kind: "ok", state: this.head };
  }
  async news(_: string, since: number): Promise<News> {
    return since === this.head.revision
      ? { kind: "none" }
      : { kind: "changed", state: this.head, says: ["Name"], device: "phone" };
  }
}

const rename = (name: string) => (doc: Airframe) => ({ ...doc, name });

describe("Keeper", () => {
  beforeEach(() => void vi.useFakeTimers());

  it("saves the last of several quick edits once", async () => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    for (const name of ["a", "ab", "abc"]) keeper.edit(rename(name));
    await vi.advanceTimersByTimeAsync(1000);
    expect(store.saved).toEqual(["abc"]);
    expect(keeper.get()).toMatchObject({ phase: "saved", revision: 2 });
  });

  it.each(["full", "blocked"])("saves all the same where the browser's storage is %s", async (how) => {
    const store = new FakeStore(state(1, "start"));
    const fail = () => {
      throw new DOMException(how, how === "full" ? "QuotaExceededError" : "SecurityError");
    };
    const shelf = { getItem: how === "full" ? () => null : fail, setItem: fail, removeItem: fail };
    const keeper = new Keeper("a", store.head, store, shelf);
    keeper.edit(rename("typed"));
    await vi.advanceTimersByTimeAsync(1000);
    expect(store.saved).toEqual(["typed"]);
    expect(keeper.get().phase).toBe("saved");
  });

  it.each(["{", "null", '{"revision":1}', '{"revision":"1","document":{}}', "[]"])(
    "starts from what is stored where the draft in the browser is torn: %s",
    (torn) => {
      const shelf = new Shelf();
      shelf.kept.set("fletcher:draft:a", torn);
      const keeper = new Keeper("a", state(3, "stored"), new FakeStore(state(3, "stored")), shelf);
      expect(keeper.get()).toMatchObject({ phase: "saved", document: { name: "stored" } });
      expect(shelf.kept.size).toBe(0);
    },
  );

  it("asks a server that is away less and less often, and at once when it is told that it is back", async () => {
    const store = new FakeStore(state(1, "start"));
    store.reachable = false;
    const asked = vi.spyOn(store, "save");
    const keeper = new Keeper("a", store.head, store, new Shelf());
    keeper.edit(rename("typed while away"));
    await vi.advanceTimersByTimeAsync(350);
    expect(asked).toHaveBeenCalledTimes(1);
    for (const [n, wait] of [1000, 2000, 4000, 8000, 16_000, 30_000, 30_000].entries()) {
      await vi.advanceTimersByTimeAsync(wait - 1);
      expect(asked).toHaveBeenCalledTimes(n + 1);
      await vi.advanceTimersByTimeAsync(1);
      expect(asked).toHaveBeenCalledTimes(n + 2);
    }
    store.reachable = true;
    await keeper.flush();
    expect(keeper.get()).toMatchObject({ phase: "saved", document: { name: "typed while away" } });
    store.reachable = false;
    asked.mockClear();
    keeper.edit(rename("away again"));
    await vi.advanceTimersByTimeAsync(350 + 1000);
    expect(asked).toHaveBeenCalledTimes(2); // counted anew
  });

  it("asks no more once a draft was dropped, or theirs was taken", async () => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    keeper.edit(rename(""));
    await vi.advanceTimersByTimeAsync(1000);
    expect(keeper.get().phase).toBe("invalid");
    await keeper.step("undo");
    expect(keeper.get()).toMatchObject({ phase: "saved", document: { name: "start" } });
    const save = vi.spyOn(store, "save");
    await keeper.flush();
    expect(save).not.toHaveBeenCalled();
    store.head = state(5, "elsewhere");
    keeper.edit(rename("mine"));
    await vi.advanceTimersByTimeAsync(1000);
    expect(keeper.get().phase).toBe("conflict");
    await keeper.resolve("theirs");
    save.mockClear();
    await keeper.flush();
    expect(save).not.toHaveBeenCalled();
    expect(keeper.get().document.name).toBe("elsewhere");
  });

  it("does not step forward while an invalid draft waits", async () => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    keeper.edit(rename(""));
    await vi.advanceTimersByTimeAsync(1000);
    await keeper.step("redo");
    expect(keeper.get()).toMatchObject({ phase: "invalid", document: { name: "" } });
  });

  it("keeps edits in the browser while the server is gone and sends them when it returns", async () => {
    const store = new FakeStore(state(1, "start"));
    const shelf = new Shelf();
    const keeper = new Keeper("a", store.head, store, shelf);
    store.reachable = false;
    keeper.edit(rename("typed while away"));
    await vi.advanceTimersByTimeAsync(5000);
    expect(keeper.get().phase).toBe("offline");
    const reloaded = new Keeper("a", state(1, "start"), store, shelf);
    expect(reloaded.get().document.name).toBe("typed while away");
    store.reachable = true;
    await vi.advanceTimersByTimeAsync(5000);
    expect(store.head.document.name).toBe("typed while away");
    expect(shelf.kept.size).toBe(0);
  });

  it("never overwrites a newer revision without asking", async () => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    store.head = state(2, "theirs");
    keeper.edit(rename("mine"));
    await vi.advanceTimersByTimeAsync(1000);
    expect(keeper.get()).toMatchObject({ phase: "conflict", theirs: { revision: 2 } });
    expect(store.head.document.name).toBe("theirs");
    await keeper.resolve("mine");
    expect(store.head).toMatchObject({ revision: 3, document: { name: "mine" } });
  });

  it("takes the newer state when asked to", async () => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    store.head = state(2, "theirs");
    keeper.edit(rename("mine"));
    await vi.advanceTimersByTimeAsync(1000);
    await keeper.resolve("theirs");
    expect(keeper.get()).toMatchObject({ phase: "saved", document: { name: "theirs" } });
    expect(store.saved).toEqual([]);
  });

  it("holds back an invalid draft, names the problem, and undo returns to the last good state", async () => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    keeper.edit(rename(""));
    await vi.advanceTimersByTimeAsync(1000);
    expect(keeper.get()).toMatchObject({ phase: "invalid", problems: [{ path: "name" }], revision: 1 });
    await keeper.step("undo");
    expect(keeper.get()).toMatchObject({ phase: "saved", document: { name: "start" } });
  });

  it("sends an edit made while a save was under way", async () => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    keeper.edit(rename("first"));
    const sending = keeper.flush();
    keeper.edit(rename("second"));
    await sending;
    await vi.advanceTimersByTimeAsync(1000);
    expect(store.saved).toEqual(["first", "second"]);
    expect(keeper.get()).toMatchObject({ phase: "saved", revision: 3 });
  });

  it("waits while nobody is signed in, and saves what was typed once somebody is again", async () => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    const save = vi.spyOn(store, "save").mockResolvedValue({ kind: "signedOut" });
    keeper.edit(rename("typed"));
    await vi.advanceTimersByTimeAsync(60_000);
    expect(save).toHaveBeenCalledTimes(1);
    expect(keeper.get()).toMatchObject({ phase: "signedOut", document: { name: "typed" } });
    save.mockRestore();
    await keeper.flush();
    expect(keeper.get()).toMatchObject({ phase: "saved", revision: 2 });
  });

  it("keeps the draft of an airframe that was deleted elsewhere until it is let go", async () => {
    const store = new FakeStore(state(1, "start"));
    const shelf = new Shelf();
    const keeper = new Keeper("a", store.head, store, shelf);
    const save = vi.spyOn(store, "save").mockResolvedValue({ kind: "gone" });
    keeper.edit(rename("typed"));
    await vi.advanceTimersByTimeAsync(60_000);
    keeper.edit(rename("typed on"));
    await vi.advanceTimersByTimeAsync(60_000);
    expect(save).toHaveBeenCalledTimes(1);
    expect(keeper.get()).toMatchObject({ phase: "gone", document: { name: "typed on" } });
    expect(shelf.kept.size).toBe(1);
    keeper.letGo();
    expect(shelf.kept.size).toBe(0);
  });

  it.each([
    ["busy", { kind: "busy" }, []],
    ["fault", { kind: "fault", problems: [{ path: "", message: "a1b2" }] }, [{ path: "", message: "a1b2" }]],
  ] as const)("tries again by itself where the server answers %s", async (phase, answer, problems) => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    const save = vi.spyOn(store, "save").mockResolvedValueOnce(answer as Answer);
    keeper.edit(rename("typed"));
    await vi.advanceTimersByTimeAsync(400);
    expect(keeper.get()).toMatchObject({ phase, problems });
    await vi.advanceTimersByTimeAsync(1000);
    expect(save).toHaveBeenCalledTimes(2);
    expect(keeper.get()).toMatchObject({ phase: "saved", problems: [] });
  });

  it("takes a step back that was asked for while the server was away, once it is there again", async () => {
    const store = new FakeStore(state(2, "later"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    store.reachable = false;
    await keeper.step("undo");
    expect(keeper.get()).toMatchObject({ phase: "offline", document: { name: "later" } });
    await vi.advanceTimersByTimeAsync(900);
    store.reachable = true;
    store.head = state(3, "earlier");
    await vi.advanceTimersByTimeAsync(5000);
    expect(keeper.get()).toMatchObject({ phase: "saved", revision: 3, document: { name: "earlier" } });
  });

  it("forgets a step that did not reach the server when something is typed after it", async () => {
    const store = new FakeStore(state(2, "later"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    store.reachable = false;
    await keeper.step("undo");
    const step = vi.spyOn(store, "step");
    keeper.edit(rename("typed"));
    store.reachable = true;
    await vi.advanceTimersByTimeAsync(5000);
    expect(step).not.toHaveBeenCalled();
    expect(store.saved).toEqual(["typed"]);
  });

  it("follows what another window saved, and says what that was until it is read", async () => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    await keeper.listen();
    expect(keeper.get()).toMatchObject({ revision: 1, heard: null });
    store.head = state(2, "theirs");
    await keeper.listen();
    expect(keeper.get()).toMatchObject({
      revision: 2,
      document: { name: "theirs" },
      heard: { says: ["Name"], device: "phone" },
    });
    keeper.read();
    expect(keeper.get().heard).toBeNull();
    vi.spyOn(store, "news").mockResolvedValue({ kind: "gone" });
    await keeper.listen();
    expect(keeper.get().phase).toBe("gone");
  });

  it("does not follow another window over what is typed here", async () => {
    const store = new FakeStore(state(1, "start"));
    const keeper = new Keeper("a", store.head, store, new Shelf());
    store.head = state(2, "theirs");
    const heard = keeper.listen();
    keeper.edit(rename("mine"));
    await heard;
    expect(keeper.get()).toMatchObject({ document: { name: "mine" }, heard: null });
  });
});
