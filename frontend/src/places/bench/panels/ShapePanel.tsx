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
  { value: "core", label: "Core (skins add to it)" },
  { value: "finished", label: "Finished part (core is smaller)" },
] as const;

const HANDS = [
  { value: "both", label: "Two, mirrored" },
  { value: "left", label: "Left only" },
  { value: "right", label: "Right only" },
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
          <Choice label="Outline describes" options={OUTLINES} {...form.field("outline")} />
        </div>
      )}
      {part.kind !== "surface" && <RootFields form={form} />}
      {(part.kind === "wing" || part.kind === "tail") && <ControlFields form={form} />}
      <div className="col-span-full border-t border-rule pt-3">
        <TextField label="Part name" {...form.field("name")} />
      </div>
      <div className="col-span-full">
        <Choice label="Number" options={HANDS} {...form.field("hand")} />
        {part.hand === "both" && part.kind !== "plank" && (
          <button type="button" className="key-button mt-2 w-full" onClick={setApart}>
            Separate left and right
          </button>
        )}
      </div>
      <NumberField label="All-up mass" quantity="mass" step={10} {...whole.field("all_up_mass_g")} />
      <NumberField label="Top speed" quantity="speed" {...whole.field("top_speed_m_s")} />
    </div>
  );
}
