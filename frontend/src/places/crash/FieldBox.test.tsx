import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { FieldBox, useFieldBox } from "./FieldBox";

vi.mock("../../api/client", async (original) => {
  const { default: createClient } = await import("openapi-fetch");
  const fetch = (request: Request) => globalThis.fetch(request);
  return {
    ...(await original<typeof import("../../api/client")>()),
    api: createClient({ baseUrl: "http://localhost", fetch }),
  };
});

const USUAL = [{ key: "hotmelt", name: "Hot melt", at_hand: false }];
const table = (key: string, name: string) => [{ key, name, family: "kind" }];
const CATALOGUE = {
  adhesives: table("hotmelt", "Hot melt"),
  bars: table("tube_4", "Carbon tube 4 / 3 mm"),
  skins: table("tape", "Clear packing tape"),
  sheets: [],
  cloths: [],
  cords: [],
};

const thing = (key: string, origin: string) => ({ id: key + origin, item: { key, origin } });
const OWN = [thing("tape", "bought"), thing("tape", "offcut"), thing("foam", "scrap")];

function Box() {
  const [box, setBox] = useFieldBox();
  return <FieldBox {...{ box, setBox }} options={[]} />;
}

function shown() {
  vi.stubGlobal("fetch", async (request: Request) => {
    const { pathname } = new URL(request.url);
    const answer = pathname.endsWith("/catalogue") ? CATALOGUE : pathname.endsWith("/own") ? OWN : USUAL;
    return new Response(JSON.stringify(answer), { headers: { "Content-Type": "application/json" } });
  });
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Box />
    </QueryClientProvider>,
  );
}

const ticked = () =>
  screen.getAllByRole<HTMLInputElement>("checkbox").map((b) => [b.parentElement!.textContent, b.checked]);

beforeEach(() => window.localStorage.clear());
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

test("what is usual is ticked, and anything else of the stockroom is put in; both are kept", async () => {
  shown();
  fireEvent.click(await screen.findByRole("checkbox", { name: "Hot melt" }));
  const more = await screen.findByLabelText<HTMLSelectElement>("Another item");
  expect([...more.querySelectorAll("option")].map((o) => o.value)).toEqual(["", "tube_4", "tape"]);
  fireEvent.change(more, { target: { value: "tube_4" } });
  await waitFor(() =>
    expect(ticked()).toEqual([
      ["Hot melt", true],
      ["Carbon tube 4 / 3 mm", true],
    ]),
  );
  expect(screen.getByText("Field box: 2 items")).toBeTruthy();
  cleanup();
  shown();
  await screen.findByText("Field box: 2 items");
  fireEvent.click(await screen.findByRole("checkbox", { name: "Carbon tube 4 / 3 mm" }));
  await screen.findByText("Field box: 1 item");
});

test("what is in the stockroom goes in by one press, but for what came from a scrapped part", async () => {
  shown();
  fireEvent.click(await screen.findByRole("button", { name: "Add what is in the Stockroom (1)" }));
  expect(await screen.findByRole("checkbox", { name: "Clear packing tape" })).toHaveProperty("checked", true);
  expect(screen.queryByRole("button", { name: /Stockroom/ })).toBeNull();
});
