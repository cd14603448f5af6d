import type { BarLayer, Catalogue, Part, Problem } from "../../../api/client";
import { Choice, NumberField, Tick } from "../../../forms/fields";
import type { Setter } from "../../../forms/form";
import { BarMakeUp } from "./BarMakeUp";
import { barOptions, madeOf } from "../../../part/materialOptions";

export interface FieldsProps<L> {
  layer: L;
  part: Part;
  catalogue: Catalogue;
  problems: Problem[];
  path: string;
  at: (key: string) => Problem | undefined;
  set: Setter<L>;
}

const PLACES = [
  { value: "pair", label: "Pair: top and bottom" },
  { value: "upper", label: "Top only" },
  { value: "lower", label: "Bottom only" },
  { value: "middle", label: "Mid-depth" },
] as const;

/** What a bar is, where it lies, and how it is made up. */
export function BarFields({ layer, part, catalogue, at, set }: FieldsProps<BarLayer>) {
  const stock = catalogue.bars.find((b) => b.key === layer.stock);
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Spar"
          value={layer.stock}
          options={barOptions(catalogue, undefined, madeOf(part, catalogue))}
          problem={at("stock")}
          onChange={set("stock")}
        />
      </div>
      <Choice
        label="Position"
        value={layer.place}
        options={PLACES}
        problem={at("place")}
        onChange={set("place")}
      />
      <NumberField
        label="Foam cover"
        value={layer.cover_mm}
        quantity="length"
        step={0.5}
        problem={at("cover_mm")}
        onChange={set("cover_mm")}
      />
      <div className="col-span-full grid gap-2">
        <Tick
          label="Continues through root"
          checked={layer.joined_at_root !== false}
          onChange={set("joined_at_root")}
        />
        {stock?.shape === "flat" && (
          <Tick label="On edge" checked={layer.on_edge === true} onChange={set("on_edge")} />
        )}
        <Tick label="Removable wing joiner" checked={layer.joiner === true} onChange={set("joiner")} />
        {!part.foam && (
          <Tick label="Inside a flute of the sheet" checked={layer.in_flute} onChange={set("in_flute")} />
        )}
        {at("in_flute") && <p className="text-note text-fail">{at("in_flute")!.message}</p>}
        {at("joiner") && <p className="text-note text-fail">{at("joiner")!.message}</p>}
      </div>
      <BarMakeUp {...{ layer, part, catalogue, at, set }} flat={stock?.shape === "flat"} />
    </>
  );
}
