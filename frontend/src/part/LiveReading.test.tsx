import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { LiveReading } from "./LiveReading";

vi.mock("../api/client", async (original) => {
  const { default: createClient } = await import("openapi-fetch");
  const fetch = (request: Request) => globalThis.fetch(request);
  return {
    ...(await original<typeof import("../api/client")>()),
    api: createClient({ baseUrl: "http://localhost", fetch }),
  };
});

const json = { status: 200, headers: { "Content-Type": "application/json" } };
let say: (line: object) => void = () => {};
let end: () => void = () => {};
let stopped: AbortSignal | null | undefined;

function fetched(input: Request | string, init?: RequestInit): Promise<Response> {
  const path = new URL(typeof input === "string" ? input : input.url, "http://localhost").pathname;
  if (path === "/api/instruments")
    return Promise.resolve(
      new Response(
        JSON.stringify([
          { name: "kitchen-scale", unit: "g", step: 0.1 },
          { name: "dial-gauge", unit: "mm", step: 0.01 },
        ]),
        json,
      ),
    );
  stopped = init?.signal;
  const body = new ReadableStream<Uint8Array>({
    start(line) {
      say = (reading) => line.enqueue(new TextEncoder().encode(JSON.stringify({ reading }) + "\n"));
      end = () => line.close();
    },
  });
  return Promise.resolve(new Response(body, { status: 200 }));
}

const taken = vi.fn();
async function chosen() {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <LiveReading unit="g" quantity="mass" onTake={taken} />
    </QueryClientProvider>,
  );
  const list = await screen.findByLabelText("Instrument");
  expect(screen.queryByRole("option", { name: "dial-gauge" })).toBeNull();
  await userEvent.selectOptions(list, "kitchen-scale");
  return screen.getByRole("button", { name: "Take" });
}

describe("a live reading", () => {
  beforeEach(() => vi.stubGlobal("fetch", vi.fn(fetched)));
  afterEach(() => {
    cleanup();
    vi.unstubAllGlobals();
    taken.mockClear();
  });
  it("is taken only while it is steady", async () => {
    const take = await chosen();
    say({ state: "moving", value: 50.2, unit: "g", says: "" });
    await waitFor(() => expect(screen.getByLabelText("Live reading").textContent).toContain("50.2 g"));
    expect((take as HTMLButtonElement).disabled).toBe(true);
    say({ state: "steady", value: 51.8, unit: "g", says: "" });
    await waitFor(() => expect((take as HTMLButtonElement).disabled).toBe(false));
    await userEvent.click(take);
    expect(taken).toHaveBeenCalledWith(51.8);
  });
  it("tells what is wrong instead of a value, and nothing can be taken", async () => {
    const take = await chosen();
    say({ state: "garbled", value: null, unit: "g", says: "It sends kg instead of g." });
    await waitFor(() =>
      expect(screen.getByLabelText("Live reading").textContent).toBe("–It sends kg instead of g."),
    );
    expect((take as HTMLButtonElement).disabled).toBe(true);
    end();
  });
  it("ends when one goes back to weighing by hand", async () => {
    await chosen();
    await userEvent.selectOptions(screen.getByLabelText("Instrument"), "");
    await waitFor(() => expect(stopped?.aborted).toBe(true));
    expect(screen.queryByRole("button", { name: "Take" })).toBeNull();
  });
});
