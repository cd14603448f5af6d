import { act, fireEvent, render, renderHook, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Choice, NumberField, OptionalNumber, TextField, Tick } from "./fields";
import { formOf, useForm } from "./form";

interface Bar {
  stock: "rod" | "tube";
  end_mm: number;
  note: string;
}

const BAR: Bar = { stock: "rod", end_mm: 300, note: "" };
afterEach(() => document.body.replaceChildren());

describe("a form", () => {
  it("changes one field and leaves the others as they are by then", () => {
    const edits: ((now: Bar) => Bar)[] = [];
    const form = formOf(
      BAR,
      (edit) => edits.push(edit),
      () => undefined,
    );
    form.field("end_mm").onChange(280);
    expect(edits[0]!({ ...BAR, note: "meanwhile" })).toEqual({
      stock: "rod",
      end_mm: 280,
      note: "meanwhile",
    });
  });

  it("tells of each field what is wrong with it", () => {
    const wrong = { path: "end_mm", message: "ends beyond the part", value: "900" };
    const form = formOf(
      BAR,
      () => {},
      (path) => (path === "end_mm" ? wrong : undefined),
    );
    expect(form.field("end_mm").problem).toBe(wrong);
    expect(form.field("note").problem).toBeUndefined();
  });

  it("of its own keeps what is typed, also where two fields change at once", () => {
    const { result } = renderHook(() => useForm(BAR));
    act(() => {
      result.current.set("stock", "tube");
      result.current.field("note").onChange("bowed");
    });
    expect(result.current.value).toEqual({ stock: "tube", end_mm: 300, note: "bowed" });
    act(() => result.current.replace(() => BAR));
    expect(result.current.value).toEqual(BAR);
  });
});

describe("a field of numbers", () => {
  const shown = (more: object = {}) => {
    const onChange = vi.fn<(v: number) => void>();
    render(<NumberField label="End" value={300} quantity="length" onChange={onChange} {...more} />);
    return { onChange, input: screen.getByRole<HTMLInputElement>("textbox", { name: "End" }) };
  };

  it("takes any unit of its kind while it is typed", () => {
    const { onChange, input } = shown();
    fireEvent.change(input, { target: { value: "1 in" } });
    expect(onChange).toHaveBeenLastCalledWith(25.4);
  });

  it("says what it needs and changes nothing where it cannot read", () => {
    const { onChange, input } = shown();
    fireEvent.change(input, { target: { value: "long" } });
    expect(onChange).not.toHaveBeenCalled();
    expect(input.getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByText(/Enter a length/).id).toBe(input.getAttribute("aria-describedby"));
  });

  it("wants whole numbers where they are counted", () => {
    const { onChange, input } = shown({ quantity: "plain", whole: true });
    fireEvent.change(input, { target: { value: "2.5" } });
    expect(onChange).not.toHaveBeenCalled();
    expect(screen.getByText("Enter a whole number.")).toBeTruthy();
  });

  it.each([
    ["ArrowUp", false, 305],
    ["ArrowDown", true, 250],
  ])("steps by %s", (key, shiftKey, to) => {
    const { onChange, input } = shown({ step: 5 });
    fireEvent.keyDown(input, { key, shiftKey });
    expect(onChange).toHaveBeenCalledExactlyOnceWith(to);
  });

  it("shows what the server says of it", () => {
    shown({ problem: { path: "end_mm", message: "ends beyond the part", value: "" } });
    expect(screen.getByText("ends beyond the part")).toBeTruthy();
  });

  it("shows itself written anew once it could be read, and what was typed where it could not", () => {
    const { input } = shown();
    fireEvent.change(input, { target: { value: "1 in" } });
    fireEvent.blur(input);
    const written = input.value;
    expect(written).not.toBe("1 in");
    fireEvent.change(input, { target: { value: "long" } });
    fireEvent.blur(input);
    expect(input.value).toBe("long");
    fireEvent.keyDown(input, { key: "Escape" });
    expect(input.value).toBe(written);
  });

  it("marks an open figure that cannot be read", () => {
    render(<OptionalNumber label="At most" value={null} quantity="plain" onChange={vi.fn()} />);
    const input = screen.getByRole("textbox", { name: "At most" });
    expect(input.getAttribute("aria-invalid")).toBeNull();
    fireEvent.change(input, { target: { value: "x" } });
    expect(input.getAttribute("aria-invalid")).toBe("true");
  });

  it("may be left open", () => {
    const onChange = vi.fn<(v: number | null) => void>();
    render(<OptionalNumber label="At most" value={12} quantity="plain" onChange={onChange} />);
    const input = screen.getByRole("textbox", { name: "At most" });
    fireEvent.change(input, { target: { value: "" } });
    expect(onChange).toHaveBeenLastCalledWith(null);
    fireEvent.change(input, { target: { value: "x" } });
    expect(onChange).toHaveBeenCalledTimes(1);
    expect(screen.getByText("Enter a number, such as 1.5, or leave it empty.")).toBeTruthy();
  });
});

describe("other fields", () => {
  it("group what is grouped and list the rest beside it", () => {
    render(
      <Choice<string>
        label="Stock"
        value=""
        options={[
          { value: "", label: "none" },
          { value: "rod", label: "Rod", group: "Carbon" },
          { value: "tube", label: "Tube", group: "Carbon" },
          { value: "stick", label: "Stick", group: "Wood" },
        ]}
        onChange={vi.fn()}
      />,
    );
    const groups = screen.getAllByRole("group").map((g) => [...g.children].map((o) => o.textContent));
    expect(groups).toEqual([["Rod", "Tube"], ["Stick"]]);
    expect(screen.getByRole("combobox").firstElementChild!.textContent).toBe("none");
  });

  it("choose, tick and write", () => {
    const [chosen, ticked, written] = [vi.fn(), vi.fn(), vi.fn()];
    render(
      <>
        <Choice<string>
          label="Stock"
          value="rod"
          options={[
            { value: "rod", label: "Rod", group: "Carbon" },
            { value: "tube", label: "Tube", group: "Glass" },
          ]}
          onChange={chosen}
        />
        <Tick label="On edge" checked={false} onChange={ticked} />
        <TextField label="Note" value="" longest={12} lines={2} onChange={written} />
      </>,
    );
    const select = screen.getByRole("combobox", { name: "Stock" });
    expect([...select.querySelectorAll("optgroup")].map((g) => g.label)).toEqual(["Carbon", "Glass"]);
    fireEvent.change(select, { target: { value: "tube" } });
    fireEvent.click(screen.getByRole("checkbox", { name: "On edge" }));
    const note = screen.getByRole<HTMLTextAreaElement>("textbox", { name: "Note" });
    fireEvent.change(note, { target: { value: "bowed" } });
    expect([chosen.mock.lastCall, ticked.mock.lastCall, written.mock.lastCall]).toEqual([
      ["tube"],
      [true],
      ["bowed"],
    ]);
    expect(note.maxLength).toBe(12);
  });
});
