import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { api, type Part, type Schemas } from "../../api/client";
import type { Subject } from "../../part/useStudy";
import { FailedCheck } from "./FailedCheck";

const crack = { id: "crack", kind: "crack" };
const rod = { id: "rod", kind: "bar", of: "spar" };
const dent = { id: "dent", kind: "crush" };
const part = { id: "wing", layers: [], damage: [dent] } as unknown as Part;
const job = {
  id: "j",
  checks: [
    { what: "Bend", holds: true },
    { what: "Twist", holds: false },
  ],
  marks: [crack, rod, dent],
} as unknown as Schemas["JobOut"];
const subject = { document: {}, part_id: "wing", case_id: "c" } as unknown as Subject;

function shown(answer: object) {
  const post = vi.spyOn(api, "POST").mockResolvedValue(answer);
  const change = vi.fn();
  render(<FailedCheck {...{ job, subject, part, change }} />);
  return { post, change };
}

describe("a repair whose check failed", () => {
  afterEach(() => {
    cleanup();
    vi.restoreAllMocks();
  });
  it("says which, and marks again what the server says can stand, beside what is there", async () => {
    const { post, change } = shown({ data: [crack], response: { ok: true, status: 200 } });
    expect(screen.getByText(/a check failed, twist/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Mark it again: crack, broken spar" }));
    await waitFor(() => expect(change).toHaveBeenCalledOnce());
    expect(post).toHaveBeenCalledWith("/api/crash/reopen", { body: { ...subject, marks: [crack, rod] } });
    const edit = change.mock.calls[0]![0] as (p: Part) => Part;
    expect(edit(part).damage).toEqual([dent, crack]);
    expect(screen.getByRole("status").textContent).toContain("Mark by hand");
    expect(screen.getByRole("status").textContent).toContain("broken spar");
    expect(screen.queryByRole("button")).toBeNull();
  });
  it("says so where the server refuses", async () => {
    const problems = [{ path: "part_id", message: "does not name a part of this airframe" }];
    const { change } = shown({ error: { problems }, response: { ok: false, status: 422 } });
    fireEvent.click(screen.getByRole("button"));
    await waitFor(() => expect(screen.getByRole("status").textContent).toContain("does not name a part"));
    expect(change).not.toHaveBeenCalled();
  });
});
