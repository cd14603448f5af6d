import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { HistoryDialog } from "./HistoryDialog";

vi.mock("../../api/client", async (original) => {
  const { default: createClient } = await import("openapi-fetch");
  const fetch = (request: Request) => globalThis.fetch(request);
  return {
    ...(await original<typeof import("../../api/client")>()),
    api: createClient({ baseUrl: "http://localhost", fetch }),
  };
});

const at = "2026-05-01T10:00:00Z";
const STATES = [
  { number: 3, created: at, says: ["the spar is longer"], parts: ["wing"] },
  { number: 2, created: at, says: ["a", "b", "c", "d", "e", "f"], parts: ["wing"] },
  { number: 1, created: at, says: ["begun"], parts: [] },
];

/** The dialog over three states; a state that is read is its number, unless the server is away. */
function shown(away = false) {
  vi.stubGlobal("fetch", async (request: Request) => {
    const path = new URL(request.url).pathname;
    if (path.endsWith("/revisions"))
      return new Response(JSON.stringify(STATES), { headers: { "Content-Type": "application/json" } });
    if (away) return new Response(null, { status: 503 });
    const document = { name: `state ${path.split("/").at(-1)}` };
    return new Response(JSON.stringify({ document }), { headers: { "Content-Type": "application/json" } });
  });
  const acts = {
    pin: vi.fn<(revision: number, name: string) => Promise<string | null>>(() => Promise.resolve(null)),
    bringBack: vi.fn(),
    newFrom: vi.fn<() => Promise<string | null>>(() => Promise.resolve(null)),
    onClose: vi.fn(),
  };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <HistoryDialog airframeId="a" revision={3} partId="wing" {...acts} />
    </QueryClientProvider>,
  );
  return acts;
}

const press = async (name: string) => fireEvent.click(await screen.findByRole("button", { name }));

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("the states of an airframe", () => {
  it("are told newest first, the present one among them, long lists cut", async () => {
    shown();
    await screen.findByText("begun");
    expect(screen.getByText(/3 · current/)).toBeTruthy();
    expect(screen.getByText("and 2 more")).toBeTruthy();
    expect(screen.queryByText("e")).toBeNull();
    expect(screen.queryByRole("button", { name: "Restore version 3" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Keep version 1 as a variant" })).toBeNull();
  });

  it("are brought back, and the dialog is done", async () => {
    const acts = shown();
    await press("Restore version 2");
    await waitFor(() => expect(acts.onClose).toHaveBeenCalledOnce());
    expect(acts.bringBack).toHaveBeenCalledExactlyOnceWith({ name: "state 2" });
  });

  it("are pinned up under their number", async () => {
    const acts = shown();
    await press("Keep version 2 as a variant");
    await screen.findByText("Version 2 is kept as a variant.");
    expect(acts.pin).toHaveBeenCalledExactlyOnceWith(2, "Version 2");
  });

  it("say why one is not pinned up", async () => {
    const acts = shown();
    acts.pin.mockResolvedValueOnce("six variants are the most");
    await press("Keep version 3 as a variant");
    await screen.findByText("six variants are the most");
  });

  it("say why no airframe was made from one", async () => {
    const acts = shown();
    acts.newFrom.mockResolvedValueOnce("the shelf is full");
    await press("New airframe from version 1");
    await screen.findByText("the shelf is full");
    expect(acts.newFrom).toHaveBeenCalledExactlyOnceWith({ name: "state 1" });
    expect(acts.onClose).not.toHaveBeenCalled();
  });

  it("say that one cannot be read, and change nothing", async () => {
    const acts = shown(true);
    await press("Restore version 1");
    await screen.findByText(/could not be read/);
    expect(acts.bringBack).not.toHaveBeenCalled();
    expect(acts.onClose).not.toHaveBeenCalled();
  });
});
