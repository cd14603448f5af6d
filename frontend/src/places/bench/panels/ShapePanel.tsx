import type { Airframe, Catalogue, Part, Problem } from "../../../api/client";
import { Choice, NumberField, TextField } from "../../../forms/fields";
import { formOf } from "../../../forms/form";
import { problemAt } from "../../../part/edits";
import { ControlFields } from "./ControlFields";
import { CoreFields } from "./CoreFields";
import { OutlineFields } from "./OutlineFields";
import { RootFields } from "./RootFields";

interface Props {
  part: Part;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  catalogue: Catalogue;
  document: Airframe;
  edit: (change: (document: Airframe) => Airframe) => void;
  /** Make this part the left one and a copy of it the right one. */
  setApart: () => void;
}

const OUTLINES = [
  { value: "core", label: "The core: skins come on top" },
  { value: "finished", label: "The finished part: the core is cut smaller" },
] as const;

const HANDS = [
  { value: "both", label: "Two: left and right, mirrored" },
  { value: "left", label: "The left one only" },
  { value: "right", label: "The right one only" },
  { value: "single", label: "One" },
] as const;

/** Foam, outline and section of the part, and the flying mass of its airframe. */
export function ShapePanel({ part, problems, path, change, catalogue, document, edit, setApart }: Props) {
  const form = formOf(part, change, (key) => problemAt(problems, `${path}.${key}`));
  const whole = formOf(document, edit, (key) => problemAt(problems, key));
  return (
    <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
      <CoreFields {...{ form, catalogue }} />
      <OutlineFields {...{ form, change, catalogue }} />
      {part.foam && (
        <div className="col-span-full">
          <Choice label="The outline is that of" options={OUTLINES} {...form.field("outline")} />
        </div>
      )}
      {part.kind !== "surface" && <RootFields form={form} />}
      {(part.kind === "wing" || part.kind === "tail") && <ControlFields form={form} />}
      <div className="col-span-full border-t border-rule pt-3">
        <TextField label="Name of the part" {...form.field("name")} />
      </div>
      <div className="col-span-full">
        <Choice label="How many" options={HANDS} {...form.field("hand")} />
        {part.hand === "both" && part.kind !== "plank" && (
          <button type="button" className="key-button mt-2 w-full" onClick={setApart}>
            Set left and right apart
          </button>
        )}
      </div>
      <NumberField
        label="All-up mass of the airframe"
        quantity="mass"
        step={10}
        {...whole.field("all_up_mass_g")}
      />
      <NumberField label="Fastest speed meant" quantity="speed" {...whole.field("top_speed_m_s")} />
    </div>
  );
}
