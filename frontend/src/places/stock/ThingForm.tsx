import { useState } from "react";
import type { Catalogue, Problem } from "../../api/client";
import { Choice, NumberField, OptionalNumber } from "../../forms/fields";
import { optionsOf } from "../../part/materialOptions";
import { ProblemList } from "../../words/ProblemList";
import { SIZE_NAMES, SIZES, tableOf, type Item } from "./kinds";

interface Props {
  first: Item;
  catalogue: Catalogue;
  problems: Problem[];
  busy: boolean;
  label: string;
  done: (item: Item) => void;
  close: () => void;
}

/** A thing on the shelf, typed field by field. */
export function ThingForm({ first, catalogue, problems, busy, label, done, close }: Props) {
  const [item, setItem] = useState(first);
  const set = (update: Partial<Item>) => setItem((now) => ({ ...now, ...update }));
  const at = (key: string) => problems.find((p) => p.path.endsWith(key));
  const sizes = SIZES[item.kind];
  const text = (key: "place" | "batch" | "note", name: string) => (
    <label className="grid gap-1">
      <span className="label-type text-small">{name}</span>
      <input
        className="field-box"
        maxLength={120}
        value={item[key] ?? ""}
        onChange={(e) => set({ [key]: e.target.value })}
      />
    </label>
  );
  const day = (key: "opened" | "keeps_until", name: string) => (
    <label className="grid gap-1">
      <span className="label-type text-small">{name}</span>
      <input
        type="date"
        className="field-box"
        value={item[key] ?? ""}
        onChange={(e) => set({ [key]: e.target.value || null })}
      />
    </label>
  );
  return (
    <form
      aria-label={label}
      className="mt-3 grid gap-3 border-l-2 border-pick pl-4"
      onSubmit={(e) => {
        e.preventDefault();
        done(item);
      }}
    >
      <Choice
        label="Material"
        value={item.key}
        options={optionsOf(tableOf(catalogue, item.kind))}
        problem={at("key")}
        onChange={(key) => set({ key })}
      />
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        <NumberField
          label="How many"
          value={item.count ?? 1}
          quantity="plain"
          whole
          problem={at("count")}
          onChange={(count) => set({ count })}
        />
        {sizes.map((s) =>
          s === "grams" ? (
            <OptionalNumber
              key={s}
              label={SIZE_NAMES[s]}
              value={item.grams ?? null}
              quantity="mass"
              problem={at("grams")}
              onChange={(grams) => set({ grams })}
            />
          ) : (
            <NumberField
              key={s}
              label={SIZE_NAMES[s]}
              value={item[s] ?? 0}
              quantity="length"
              problem={at(s)}
              onChange={(mm) => set({ [s]: mm })}
            />
          ),
        )}
        <OptionalNumber
          label="Price of one"
          value={item.price ?? null}
          quantity="plain"
          problem={at("price")}
          onChange={(price) => set({ price })}
        />
        {text("place", "Place")}
        {text("batch", "Batch")}
        {(item.kind === "glue" || item.kind === "cloth") && day("opened", "Opened")}
        {item.kind === "glue" && day("keeps_until", "Keeps until")}
      </div>
      {text("note", "Note")}
      {problems.length > 0 && (
        <div role="alert" className="text-fail">
          <ProblemList problems={problems} />
        </div>
      )}
      <p className="flex gap-2">
        <button type="submit" className="key-main" disabled={busy}>
          {label}
        </button>
        <button type="button" className="key-button" onClick={close}>
          Cancel
        </button>
      </p>
    </form>
  );
}
