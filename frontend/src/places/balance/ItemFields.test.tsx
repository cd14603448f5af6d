import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it } from "vitest";
import { namesOf, Versions } from "./ItemFields";

function Field({ told }: { told: string[][] }) {
  const [names, setNames] = useState<string[]>(["one"]);
  const change = (next: string[]) => {
    told.push(next);
    setNames(next);
  };
  return (
    <>
      <Versions names={names} problem={undefined} change={change} />
      <button onClick={() => setNames(["three"])}>undo</button>
    </>
  );
}

describe("names of versions", () => {
  afterEach(cleanup);
  it("are parted by commas, each once", () => {
    expect(namesOf("one, two,one ,")).toEqual(["one", "two"]);
    expect(namesOf(" , ")).toEqual([]);
  });
  it("stay as they are typed, comma and all, and follow what is changed elsewhere", () => {
    const told: string[][] = [];
    render(<Field told={told} />);
    const box = screen.getByLabelText<HTMLInputElement>("Only in versions");
    expect(box.value).toBe("one");
    fireEvent.change(box, { target: { value: "one," } });
    expect(box.value).toBe("one,");
    fireEvent.change(box, { target: { value: "one, two" } });
    expect([box.value, told.at(-1)]).toEqual(["one, two", ["one", "two"]]);
    fireEvent.click(screen.getByText("undo"));
    expect(box.value).toBe("three");
  });
});
