import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { api, type Airframe, type Part } from "../api/client";
import { useLeft } from "./useLeft";

const part = (...marks: string[]) =>
  ({ id: "wing", damage: marks.map((id) => ({ id, kind: "break" })) }) as unknown as Part;
const subject = (of: Part) => ({
  document: { name: "x", parts: [of] } as unknown as Airframe,
  part_id: "wing",
  case_id: "c",
});

interface Asked {
  document: Airframe;
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

function shown() {
  const asked: string[] = [];
  vi.spyOn(api, "POST").mockImplementation((async (_: string, { body }: { body: Asked }) => {
    const marks = body.document.parts[0]!.damage.map((m) => m.id).join(" ");
    asked.push(marks);
    await new Promise((done) => setTimeout(done, 500));
    return { data: { says: marks, asked: [{ mark_id: marks }] } };
  }) as never);
  const queries = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={queries}>{children}</QueryClientProvider>
  );
  // a document is another one whenever it changes, and the same while it does not
  const subjects = new Map<Part, ReturnType<typeof subject>>();
  const of = (p: Part) => subjects.get(p) ?? subjects.set(p, subject(p)).get(p)!;
  const hook = renderHook(({ p }: { p: Part }) => useLeft(of(p), p), {
    wrapper,
    initialProps: { p: part() },
  });
  const after = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));
  const rest = async () => {
    await after(300);
    await after(700);
  };
  return { asked, hook, after, rest };
}

test("nothing is said of a part before it was asked with the marks that it has", async () => {
  const { asked, hook, after } = shown();
  await after(1000);
  hook.rerender({ p: part("snapped") });
  await after(1);
  expect(hook.result.current.left).toBeUndefined();
  await after(260);
  expect(hook.result.current.left).toBeUndefined();
  await after(600);
  expect(hook.result.current.left).toMatchObject({ says: "snapped" });
  expect(asked).toEqual(["snapped"]);
});

test("an answer about other marks is not shown, what it asked about them stays", async () => {
  const { hook, after, rest } = shown();
  hook.rerender({ p: part("dent") });
  await rest();
  expect(hook.result.current.left).toMatchObject({ says: "dent" });
  hook.rerender({ p: part("dent", "snapped") });
  await after(1);
  expect(hook.result.current).toMatchObject({ left: undefined, asked: [{ mark_id: "dent" }] });
  await after(400);
  expect(hook.result.current).toMatchObject({ left: undefined, asked: [{ mark_id: "dent" }] });
  await after(600);
  expect(hook.result.current.left).toMatchObject({ says: "dent snapped" });
});

test("a part without marks has nothing left to tell", async () => {
  const { hook, rest } = shown();
  hook.rerender({ p: part("dent") });
  await rest();
  hook.rerender({ p: part() });
  await rest();
  expect(hook.result.current.left).toBeUndefined();
});
