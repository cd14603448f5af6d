import { Refused } from "./client";
import { QueryClient, QueryClientProvider, QueryObserver, type QueryKey } from "@tanstack/react-query";
import { act, createElement, type ReactNode } from "react";
import { createRoot } from "react-dom/client";
import { afterEach, describe, expect, it, vi } from "vitest";
import {
  accepted,
  readAnew,
  troubleOf,
  useChange,
  usePinUp,
  useRemoveAirframe,
  useRemoveCandidate,
  useRemoveCoupon,
  useRemoveJob,
  useRemovePicture,
  useRemoveTrial,
  useRenamePin,
  useTick,
  useUnpin,
} from "./changes";
import { keys } from "./queries";

vi.mock("./client", async (original) => {
  const { default: createClient } = await import("openapi-fetch");
  const fetch = (request: Request) => globalThis.fetch(request);
  return {
    ...(await original<typeof import("./client")>()),
    api: createClient({ baseUrl: "http://localhost", fetch }),
  };
});

(globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;

const answer = (status: number, error?: unknown, data?: string) =>
  Promise.resolve({ response: new Response(null, { status }), error, data });

describe("the answer to a change", () => {
  it("is its data, or nothing where there is none", async () => {
    expect(await accepted(answer(200, undefined, "row"))).toBe("row");
    expect(await accepted(answer(204))).toBeUndefined();
  });

  it("is thrown with the problems that the server names", async () => {
    const problems = [{ path: "event.says", message: "is missing" }];
    await expect(accepted(answer(422, { problems }))).rejects.toThrow("event.says is missing");
    await expect(accepted(answer(422, { problems }))).rejects.toMatchObject({ problems });
  });

  it.each([
    [401, "signed out"],
    [403, "reload"],
    [404, "no longer there"],
    [409, "changed elsewhere"],
    [413, "too large"],
    [429, "too often"],
    [500, "gave no reason"],
  ])("says what %i means", async (status, says) => {
    await expect(accepted(answer(status))).rejects.toThrow(says);
  });

  it("says so where there is none", async () => {
    await expect(accepted(Promise.reject(new TypeError("fetch")))).rejects.toThrow("does not answer");
  });
});

describe("the trouble with a change", () => {
  it("is nothing once it is done", async () => {
    expect(await troubleOf(Promise.resolve({ id: 1 }))).toBeNull();
  });

  it("is the first reason of a refusal", async () => {
    const first = { path: "name", message: "is longer than 60 letters" };
    const refused = new Refused([first, { path: "", message: "and more" }]);
    expect(await troubleOf(Promise.reject(refused))).toBe(first.message);
  });

  it("that no server told stays an error", async () => {
    await expect(troubleOf(Promise.reject(new TypeError("undefined is not a function")))).rejects.toThrow(
      "undefined",
    );
  });
});

describe("a change", () => {
  let close = () => {};
  afterEach(() => close());

  /** A component that holds the change, in a page of its own. */
  function shown(send: (n: number) => Promise<unknown>) {
    const client = new QueryClient({ defaultOptions: { queries: { gcTime: Infinity } } });
    client.setQueryData(["rows"], [1]);
    const held: { change?: ReturnType<typeof useChange<number>> } = {};
    const Holder = () => {
      held.change = useChange<number>({
        send,
        refreshes: [["rows"]],
        guess: (now, n) => [...(now as number[]), n],
      });
      return null;
    };
    const place = document.createElement("div");
    const root = createRoot(place);
    const inside: ReactNode = createElement(Holder);
    act(() => root.render(createElement(QueryClientProvider, { client }, inside)));
    close = () => act(() => root.unmount());
    return { client, held };
  }

  /** What is told in a while: the library tells those who look on in a breath of its own. */
  const soon = (what: () => void) => act(async () => void (await vi.waitFor(what)));

  it("is shown at once and kept where it is stored", async () => {
    let store = () => {};
    const { client, held } = shown(() => new Promise((resolve) => (store = () => resolve(null))));
    act(() => held.change!.mutate(2));
    await soon(() => expect(client.getQueryData(["rows"])).toEqual([1, 2]));
    store();
    await soon(() => expect(held.change!.isSuccess).toBe(true));
    expect(client.getQueryData(["rows"])).toEqual([1, 2]);
    expect(held.change!.error).toBeNull();
    expect(client.getQueryState(["rows"])!.isInvalidated).toBe(true);
  });

  it("is taken back with its reason where it is refused", async () => {
    const refused = new Refused([{ path: "", message: "it is no longer there" }]);
    const { client, held } = shown(() => Promise.reject(refused));
    act(() => held.change!.mutate(2));
    await soon(() => expect(held.change!.error?.message).toBe("it is no longer there"));
    expect(client.getQueryData(["rows"])).toEqual([1]);
    expect(client.getQueryState(["rows"])!.isInvalidated).toBe(true);
  });
});

describe("what each change shows until the server has answered", () => {
  let close = () => {};
  afterEach(() => {
    close();
    vi.unstubAllGlobals();
  });

  /** What stands in the cache right after a change was asked for, and where it was sent. */
  async function guessed(
    kept: QueryKey,
    before: unknown,
    use: () => { mutate: (v: never) => void },
    what: unknown,
  ) {
    const sent: string[] = [];
    vi.stubGlobal("fetch", (request: Request | string) => {
      sent.push(typeof request === "string" ? request : `${request.method} ${new URL(request.url).pathname}`);
      return new Promise<Response>(() => {});
    });
    const client = new QueryClient({ defaultOptions: { queries: { gcTime: Infinity } } });
    client.setQueryData(kept, before);
    let mutate: (v: never) => void = () => {};
    const Holder = () => {
      mutate = use().mutate;
      return null;
    };
    const root = createRoot(document.createElement("div"));
    act(() => root.render(createElement(QueryClientProvider, { client }, createElement(Holder))));
    close = () => act(() => root.unmount());
    await act(async () => {
      mutate(what as never);
      await vi.waitFor(() => expect(sent).toHaveLength(1));
    });
    return { after: client.getQueryData(kept), sent: sent[0] };
  }

  it.each<[string, QueryKey, () => { mutate: (v: never) => void }, number | string]>([
    ["a job", keys.jobs("a"), () => useRemoveJob("a"), "2"],
    ["a picture", keys.pictures("a"), () => useRemovePicture("a"), "2"],
    ["a candidate", keys.candidates("a"), () => useRemoveCandidate("a"), "2"],
    ["a trial", keys.trials, () => useRemoveTrial(), "2"],
    ["an airframe", keys.shelf, () => useRemoveAirframe(), "2"],
    ["a pinned variant", keys.pins("a"), () => useUnpin("a"), 2],
  ])("%s is gone, and no other", async (_, kept, use, id) => {
    const rows = [1, 2, 3].map((n) => ({ id: typeof id === "number" ? n : String(n) }));
    const { after, sent } = await guessed(kept, rows, use, id);
    expect(after).toEqual([rows[0], rows[2]]);
    expect(sent).toMatch(/^DELETE .*2$/);
  });

  it("a coupon is gone from the page that holds it", async () => {
    const pages = [[{ id: "1" }, { id: "2" }], [{ id: "3" }]].map((coupons) => ({ coupons, more: false }));
    const { after } = await guessed(keys.coupons, { pages, pageParams: [] }, () => useRemoveCoupon(), "2");
    expect(after).toMatchObject({ pages: [{ coupons: [{ id: "1" }] }, { coupons: [{ id: "3" }] }] });
  });

  it("a variant has its new name, and no other", async () => {
    const rows = [{ id: 1, name: "one" }, { id: 2, name: "two" }]; // prettier-ignore
    const { after, sent } = await guessed(keys.pins("a"), rows, () => useRenamePin("a"), {
      id: 2,
      name: "stiff",
    });
    expect(after).toEqual([rows[0], { id: 2, name: "stiff" }]);
    expect(sent).toBe("PUT /api/airframes/a/pins/2");
  });

  it("a step of work is ticked with the time, and no other", async () => {
    const task = (number: number) => ({ number, done: null, note: "" });
    const jobs = [1, 2].map((id) => ({ id, tasks: [task(1), task(2)] }));
    const what = { job: jobs[0], task: jobs[0]!.tasks[1], done: true };
    const { after } = await guessed(keys.jobs("a"), jobs, () => useTick("a"), what);
    const told = after as typeof jobs;
    expect(told[1]).toEqual(jobs[1]);
    expect(told[0]!.tasks[0]).toEqual(jobs[0]!.tasks[0]);
    expect(Date.parse(told[0]!.tasks[1]!.done!)).toBeGreaterThan(0);
  });

  it("what has no guess stays as it was, and nothing is shown where nothing was known", async () => {
    const rows = [{ id: 1 }];
    const { after } = await guessed(keys.pins("a"), rows, () => usePinUp("a"), {
      part_id: "w",
      revision: 1,
      name: "x",
    });
    expect(after).toEqual(rows);
    close();
    const unknown = await guessed(["other"], 1, () => useUnpin("a"), 2);
    expect(unknown.after).toBe(1);
  });
});

describe("what a change has made old", () => {
  it("is read again even where the first reading of it was still under way", async () => {
    const client = new QueryClient({ defaultOptions: { queries: { gcTime: Infinity } } });
    const readings: ((rows: string[]) => void)[] = [];
    const queryFn = () => new Promise<string[]>((resolve) => readings.push(resolve));
    const seen = new QueryObserver(client, { queryKey: ["rows"], queryFn });
    const close = seen.subscribe(() => {});
    const done = readAnew(client, ["rows"]);
    await vi.waitFor(() => expect(readings).toHaveLength(2));
    readings[0]!([]);
    readings[1]!(["new"]);
    await done;
    expect(client.getQueryData(["rows"])).toEqual(["new"]);
    close();
  });
});
