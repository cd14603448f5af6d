import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Catalogue } from "../../api/client";
import { CouponForm } from "./CouponForm";

vi.mock("../../api/client", async (original) => {
  const { default: createClient } = await import("openapi-fetch");
  const fetch = (request: Request) => globalThis.fetch(request);
  return {
    ...(await original<typeof import("../../api/client")>()),
    api: createClient({ baseUrl: "http://localhost", fetch }),
  };
});

const catalogue = {
  adhesives: [
    { key: "contact_foamsafe_clear", name: "Contact, clear", techniques: { flashed: "aired", wet: "wet" } },
    { key: "pu_foaming_white", name: "Foaming, white", techniques: { plain: "plain" } },
  ],
} as unknown as Catalogue;
const sides = [
  { value: "epp_30", label: "Bead foam", group: "Foam" },
  { value: "balsa", label: "Balsa", group: "Wood" },
];

/** What the server is asked, and how it answers: by path. */
function served(answers: Record<string, [number, unknown]>) {
  const asked: { path: string; body: unknown }[] = [];
  vi.stubGlobal("fetch", async (input: Request | string, init?: RequestInit) => {
    const path = new URL(typeof input === "string" ? input : input.url, "http://localhost").pathname;
    asked.push({ path, body: typeof input === "string" ? init?.body : await input.json() });
    const [status, body] = answers[path] ?? [500, null];
    return new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
  });
  return asked;
}

function shown() {
  const client = new QueryClient();
  render(
    <QueryClientProvider client={client}>
      <CouponForm catalogue={catalogue} sides={sides} trial={null} />
    </QueryClientProvider>,
  );
  const form = screen.getByRole("form", { name: "Test result" });
  const field = (name: string) => within(form).getByRole<HTMLInputElement>("textbox", { name });
  const type = (name: string, value: string) => {
    fireEvent.change(field(name), { target: { value } });
    fireEvent.blur(field(name));
  };
  const keep = () => fireEvent.click(within(form).getByRole("button", { name: "Save result" }));
  return { form, field, type, keep };
}

beforeEach(() => window.localStorage.clear());
afterEach(() => {
  vi.unstubAllGlobals();
  document.body.replaceChildren();
});

describe("a broken coupon", () => {
  it("is sent as it was filled in, and its face is emptied for the next", async () => {
    const asked = served({ "/api/joints/coupons": [201, { id: "c1" }] });
    const { type, keep, field } = shown();
    type("Foam torn deep", "70");
    fireEvent.click(screen.getByRole("button", { name: "The rest is: Clean glue line" }));
    type("Breaking load (if measured)", "18");
    keep();
    await screen.findByText("Saved.");
    const { coupon, trial_id } = asked[0]!.body as { coupon: Record<string, unknown>; trial_id: null };
    expect(trial_id).toBeNull();
    expect(coupon.load_N).toBe(18);
    expect(coupon.face).toMatchObject({ foam_deep: 70, clean_seam: 30 });
    await waitFor(() => expect(field("Foam torn deep").value).toBe("0 %"));
  });

  it("takes the way of an adhesive back when another one is chosen", async () => {
    const asked = served({ "/api/joints/coupons": [201, { id: "c1" }] });
    const { keep } = shown();
    fireEvent.change(screen.getByRole("combobox", { name: "Application" }), { target: { value: "wet" } });
    fireEvent.change(screen.getByRole("combobox", { name: "Adhesive" }), {
      target: { value: "pu_foaming_white" },
    });
    expect(screen.queryByRole("combobox", { name: "Application" })).toBeNull();
    keep();
    await screen.findByText("Saved.");
    expect(asked[0]!.body).toMatchObject({ coupon: { adhesive: "pu_foaming_white", technique: null } });
  });

  it("keeps what was typed across a reload", () => {
    shown().type("Joint width", "25");
    document.body.replaceChildren();
    expect(shown().field("Joint width").value).toBe("25 mm");
  });

  it("says at the field what the server refuses, and loses nothing", async () => {
    const problems = [{ path: "coupon.load_N", message: "must be above 0", value: "-3" }];
    served({ "/api/joints/coupons": [422, { problems }] });
    const { type, keep, field } = shown();
    type("Foam torn deep", "100");
    keep();
    await screen.findByText("must be above 0");
    expect(field("Breaking load (if measured)").getAttribute("aria-invalid")).toBe("true");
    expect(field("Foam torn deep").value).toBe("100 %");
    expect(screen.queryByText("Saved.")).toBeNull();
  });

  it("says so where there is no answer at all", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("no")));
    shown().keep();
    expect((await screen.findByRole("alert")).textContent).toMatch(/not kept.*does not answer/);
  });

  it("stays kept where its photograph is refused", async () => {
    const problems = [{ path: "photo", message: "is no picture that can be read", value: "" }];
    const asked = served({
      "/api/joints/coupons": [201, { id: "c1" }],
      "/api/joints/coupons/c1/photo": [422, { problems }],
    });
    const { type, keep, field } = shown();
    type("Foam torn deep", "100");
    const photo = new File(["x"], "face.png", { type: "image/png" });
    fireEvent.change(screen.getByLabelText(/Photo of the face/), { target: { files: [photo] } });
    keep();
    expect((await screen.findByRole("alert")).textContent).toBe(
      "The result is saved, but not the photo: it is no picture that can be read",
    );
    expect((asked[1]!.body as FormData).get("photo")).toBeInstanceOf(File);
    expect(field("Foam torn deep").value).toBe("0 %");
  });
});
