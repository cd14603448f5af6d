import { afterEach, describe, expect, it, vi } from "vitest";
import { rememberSession, send, type Session } from "./client";
import { regainSession, sessionLost, whenSignedIn } from "./session";

const ADDRESS = "http://localhost/api/airframes";
const session = (csrf: string) => ({ user: "ann", demo: false, csrf }) as Session;
const answers = (...of: [number, unknown?][]) => {
  const left = [...of];
  return vi.spyOn(globalThis, "fetch").mockImplementation(async () => {
    const [status, body] = left.shift()!;
    return new Response(body === undefined ? null : JSON.stringify(body), { status });
  });
};
const tokens = (fetched: ReturnType<typeof answers>) =>
  fetched.mock.calls.map(([sent, init]) => (init ? (init.headers as Headers).get("X-CSRFToken") : sent));

describe("a request", () => {
  afterEach(() => {
    vi.restoreAllMocks();
    regainSession();
  });

  it("whose token has grown old goes again with a new one, its body with it", async () => {
    rememberSession(session("old"));
    const fetched = answers([403], [200, session("new")], [201]);
    const reply = await send(ADDRESS, { method: "POST", body: "typed" });
    expect(reply.status).toBe(201);
    expect(tokens(fetched)).toEqual(["old", "/api/session", "new"]);
    expect(fetched.mock.calls[2]![1]?.body).toBe("typed");
  });

  it("that only reads, or signs in, is not sent again", async () => {
    const fetched = answers([403], [403]);
    await send(ADDRESS, { method: "GET" });
    await send("http://localhost/api/session", { method: "POST", body: "{}" });
    expect(fetched).toHaveBeenCalledTimes(2);
  });

  it("that a busy server turns away is asked again, a few times, and not when it is wanted no more", async () => {
    vi.useFakeTimers();
    const fetched = answers([429], [429], [200], [429], [429], [429], [429], [429], [429]);
    const first = send(ADDRESS, { method: "POST", body: "{}" });
    await vi.advanceTimersByTimeAsync(3000);
    expect((await first).status).toBe(200);
    const second = send(ADDRESS, { method: "POST", body: "{}" });
    await vi.advanceTimersByTimeAsync(60_000);
    expect((await second).status).toBe(429);
    expect(fetched).toHaveBeenCalledTimes(8);
    const control = new AbortController();
    const third = send(ADDRESS, { method: "POST", body: "{}", signal: control.signal });
    const ended = expect(third).rejects.toThrow();
    await vi.advanceTimersByTimeAsync(10);
    control.abort();
    await vi.advanceTimersByTimeAsync(60_000);
    await ended;
    expect(fetched).toHaveBeenCalledTimes(9);
    vi.useRealTimers();
  });

  it("without a session is noticed, and what waits for one goes on when there is one again", async () => {
    const heard = vi.fn();
    const stop = whenSignedIn(heard);
    answers([401]);
    await send(ADDRESS, { method: "GET" });
    expect(sessionLost.get()).toBe(true);
    expect(heard).not.toHaveBeenCalled();
    regainSession();
    expect(sessionLost.get()).toBe(false);
    expect(heard).toHaveBeenCalledTimes(1);
    stop();
    regainSession();
    expect(heard).toHaveBeenCalledTimes(1);
  });
});
