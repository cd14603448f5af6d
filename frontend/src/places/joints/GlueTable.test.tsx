import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { GlueTable } from "./GlueTable";

vi.mock("../../api/client", async (original) => {
  const { default: createClient } = await import("openapi-fetch");
  const fetch = (request: Request) => globalThis.fetch(request);
  return {
    ...(await original<typeof import("../../api/client")>()),
    api: createClient({ baseUrl: "http://localhost", fetch }),
  };
});

const glue = (key: string, name: string) => ({ key, name, techniques: {}, attacks: [] });
const CATALOGUE = {
  adhesives: [
    glue("contact_foamsafe_clear", "Contact"),
    glue("epoxy_5min", "Epoxy"),
    glue("pva_white", "White glue"),
  ],
  sides: [
    { key: "epp_30", name: "Bead foam", group: "Foam" },
    { key: "wood", name: "Wood or ply", group: "Other" },
  ],
};
const band = (typ: number) => ({ typ, low: typ / 2, high: typ * 2, causes: [] });
const cell = (state: string, typ: number, more: object = {}) => ({
  state, says: "why it is so", technique: "spread", holds_N: [band(0.001), band(typ)], fails: "foam tears first",
  fixed_min: 11, loaded_min: 1440, ...more,
}); // prettier-ignore
const TABLE = {
  pairs: ["Bead foam, to itself", "Bead foam to Wood or ply"],
  minutes: [10, 1440],
  rows: [
    { key: "contact_foamsafe_clear", name: "Contact", cells: [cell("good", 14), cell("try_first", 9)] },
    { key: "epoxy_5min", name: "Epoxy", cells: [cell("poor", 5, { loaded_min: null }), cell("no", 3)] },
  ],
  best: ["contact_foamsafe_clear", null],
};

let asked: { glues: string[]; pairs: { one: string; other: string }[]; minutes: number[] }[] = [];

function shown(answer: [number, unknown] = [200, TABLE]) {
  asked = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const json = { headers: { "Content-Type": "application/json" } };
    if (request.url.endsWith("/catalogue")) return new Response(JSON.stringify(CATALOGUE), json);
    asked.push((await request.json()) as (typeof asked)[number]);
    return new Response(JSON.stringify(answer[1]), { status: answer[0], ...json });
  });
  render(
    <QueryClientProvider client={new QueryClient()}>
      <GlueTable />
    </QueryClientProvider>,
  );
}

const wanted = () => within(screen.getByRole("region", { name: "What the table tells" }));

beforeEach(() => window.localStorage.clear());
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("the table of my glues", () => {
  it("tells of each pair what holds, what is not to be used and why, and what holds most", async () => {
    shown();
    const rows = within(await screen.findByRole("table")).getAllByRole("row");
    const cells = rows.slice(1).map((row) =>
      within(row)
        .getAllByRole("cell")
        .map((c) => c.textContent),
    );
    expect(cells[0]![0]).toContain("holds most");
    expect(cells[0]![0]).toContain("147 – 28");
    expect(cells[0]![0]).toContain("0nothing yet");
    expect(cells[0]![0]).toContain("fixed after 11 min, full load after 24 h");
    expect(cells[0]![0]).not.toContain("why it is so");
    expect(cells[0]![1]).toContain("scrap first");
    expect(cells[0]![1]).toContain("why it is so");
    expect(cells[1]![0]).toContain("suits badly");
    expect(cells[1]![0]).not.toContain("full load");
    expect(cells[1]![1]).toBe("No: why it is so");
  });

  it("asks for the glues that are ticked and keeps them on this machine", async () => {
    shown();
    const white = await wanted().findByRole("checkbox", { name: "White glue" });
    fireEvent.click(white);
    await waitFor(() => expect(asked.at(-1)?.glues).toContain("pva_white"));
    fireEvent.click(wanted().getByRole("checkbox", { name: "Contact" }));
    await waitFor(() => expect(asked.at(-1)?.glues).not.toContain("contact_foamsafe_clear"));
    cleanup();
    shown();
    expect((await wanted().findByRole<HTMLInputElement>("checkbox", { name: "White glue" })).checked).toBe(
      true,
    );
    expect(wanted().getByRole<HTMLInputElement>("checkbox", { name: "Contact" }).checked).toBe(false);
  });

  it("takes pairs in and out", async () => {
    shown();
    await screen.findByRole("table");
    fireEvent.click(wanted().getByRole("button", { name: "Another pair" }));
    await waitFor(() => expect(asked.at(-1)?.pairs).toHaveLength(4));
    expect(asked.at(-1)!.pairs.at(-1)).toEqual({ one: "epp_30", other: "wood" });
    fireEvent.click(wanted().getByRole("button", { name: "Take pair 1 out" }));
    await waitFor(() => expect(asked.at(-1)?.pairs).toHaveLength(3));
    fireEvent.change(wanted().getByLabelText("1: this"), { target: { value: "wood" } });
    await waitFor(() => expect(asked.at(-1)?.pairs[0]!.one).toBe("wood"));
  });

  it("reads times with commas between and keeps the last good ones", async () => {
    shown();
    const field = await wanted().findByLabelText("After how many minutes");
    fireEvent.change(field, { target: { value: "5, 90" } });
    await waitFor(() => expect(asked.at(-1)?.minutes).toEqual([5, 90]));
    const before = asked.length;
    for (const bad of ["", "0", "1, 2, 3, 4, 5", "soon", "20161"]) {
      fireEvent.change(field, { target: { value: bad } });
      expect(wanted().getByText("Needs one to four numbers from 1 to 20160.")).toBeTruthy();
    }
    expect(asked).toHaveLength(before);
  });

  it("says why a pair cannot be", async () => {
    shown([422, { problems: [{ path: "pairs[1].other", message: "is a pair on which nothing is known" }] }]);
    expect(await wanted().findByText("is a pair on which nothing is known")).toBeTruthy();
  });

  it("starts anew where what was kept cannot be read, or nothing is kept", async () => {
    window.localStorage.setItem("fletcher-glue-table", "{torn");
    shown();
    await screen.findByRole("table");
    expect(asked[0]!.pairs).toHaveLength(3);
    cleanup();
    vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    shown();
    fireEvent.click(await wanted().findByRole("checkbox", { name: "White glue" }));
    await waitFor(() => expect(asked.at(-1)?.glues).toContain("pva_white"));
    vi.restoreAllMocks();
  });
});
