import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import { answered, StillWhole } from "./StillWhole";

afterEach(cleanup);

const asked = [
  { mark_id: "m", line_id: "spar", at_mm: 200, says: "Carbon rod 3 mm", found: "open" as const },
  { mark_id: "m", line_id: "film", at_mm: 200, says: "Film", found: "open" as const },
];

test("every line that crosses has three answers, and not seen is the first", () => {
  render(<StillWhole asked={asked} seen={{ whole: [], broken: ["film"] }} answer={vi.fn()} />);
  const spar = screen.getByRole("radiogroup", { name: "Carbon rod 3 mm: is it whole?" });
  const film = screen.getByRole("radiogroup", { name: "Film: is it whole?" });
  const said = (group: HTMLElement) =>
    [...group.querySelectorAll("input")].filter((i) => i.checked).map((i) => i.parentElement!.textContent);
  expect(said(spar)).toEqual(["not seen"]);
  expect(said(film)).toEqual(["broken"]);
});

test("an answer names its line", () => {
  const answer = vi.fn();
  render(<StillWhole asked={asked} seen={{ whole: [], broken: [] }} answer={answer} />);
  const group = screen.getByRole("radiogroup", { name: "Film: is it whole?" });
  fireEvent.click(group.querySelectorAll("input")[0]!);
  expect(answer).toHaveBeenCalledExactlyOnceWith("film", "whole");
});

test("where nothing crosses nothing is asked", () => {
  const { container } = render(<StillWhole asked={[]} seen={{ whole: [], broken: [] }} answer={vi.fn()} />);
  expect(container.innerHTML).toBe("");
});

test("a line is whole, or broken, or neither: the last answer counts", () => {
  const mark = { id: "m", whole: ["film"], broken: ["spar"] };
  expect(answered(mark, "spar", "whole")).toEqual({ id: "m", whole: ["film", "spar"], broken: [] });
  expect(answered(mark, "film", "broken")).toEqual({ id: "m", whole: [], broken: ["spar", "film"] });
  expect(answered(mark, "spar", "open")).toEqual({ id: "m", whole: ["film"], broken: [] });
  expect(answered(mark, "spar", "broken")).toEqual({ id: "m", whole: ["film"], broken: ["spar"] });
});
