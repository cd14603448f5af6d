import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { useRemoveCoupon } from "../api/changes";
import { useCoupons } from "../api/queries";
import { ShowOlder } from "./ShowOlder";

vi.mock("../api/client", async (original) => {
  const { default: createClient } = await import("openapi-fetch");
  const fetch = (request: Request) => globalThis.fetch(request);
  return {
    ...(await original<typeof import("../api/client")>()),
    api: createClient({ baseUrl: "http://localhost", fetch }),
  };
});

/** Five coupons, two to a page, read by the id of the last one; all of what was asked. */
function served() {
  const asked: string[] = [];
  vi.stubGlobal("fetch", (request: Request) => {
    const url = new URL(request.url);
    asked.push(`${request.method} ${url.pathname}${url.search}`);
    if (request.method === "DELETE") return new Promise(() => {});
    const from = Number(url.searchParams.get("before") ?? 6) - 1;
    const coupons = [from, from - 1].filter((n) => n > 0).map((n) => ({ id: String(n) }));
    return Promise.resolve(Response.json({ coupons, more: from > 2 }));
  });
  return asked;
}

function List() {
  const list = useCoupons();
  const remove = useRemoveCoupon();
  return (
    <>
      <p data-testid="rows">{list.rows?.map((c) => c.id).join()}</p>
      <ShowOlder list={list} what="coupons" />
      <button type="button" onClick={() => remove.mutate("4")}>
        Take out
      </button>
    </>
  );
}

const rows = (ids: string) => waitFor(() => expect(screen.getByTestId("rows").textContent).toBe(ids));
const older = () => screen.getByRole("button", { name: "Show older coupons" });

afterEach(() => {
  vi.unstubAllGlobals();
  document.body.replaceChildren();
});

describe("a long list", () => {
  const shown = () =>
    render(
      <QueryClientProvider client={new QueryClient()}>
        <List />
      </QueryClientProvider>,
    );

  it("shows one page more at a time, to its end", async () => {
    const asked = served();
    shown();
    await rows("5,4");
    fireEvent.click(older());
    await rows("5,4,3,2");
    fireEvent.click(older());
    await rows("5,4,3,2,1");
    expect(screen.queryByRole("button", { name: /older/ })).toBeNull();
    expect(asked).toEqual([
      "GET /api/joints/coupons",
      "GET /api/joints/coupons?before=4",
      "GET /api/joints/coupons?before=2",
    ]);
  });

  it("loses what is taken out at once, on whatever page it stands", async () => {
    served();
    shown();
    await rows("5,4");
    fireEvent.click(older());
    await rows("5,4,3,2");
    fireEvent.click(screen.getByRole("button", { name: "Take out" }));
    await rows("5,3,2");
  });
});
