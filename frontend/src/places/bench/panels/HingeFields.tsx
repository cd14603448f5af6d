import type { Layer } from "../../../api/client";
import { Choice, NumberField } from "../../../forms/fields";
import type { FieldsProps } from "./BarFields";

const LINES = (["top", "centre", "bottom"] as const).map((value) => ({ value, label: value }));

/** How a control surface hangs. */
export function HingeFields({ layer, catalogue, at, set }: FieldsProps<Extract<Layer, { type: "hinge" }>>) {
  const method = catalogue.hinges.find((h) => h.key === layer.method);
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Hinge type"
          value={layer.method}
          options={catalogue.hinges.map((h) => ({ value: h.key, label: h.name }))}
          problem={at("method")}
          hint={method && `estimate, data quality ${method.grade}`}
          onChange={set("method")}
        />
      </div>
      <Choice
        label="Hinge line at"
        value={layer.line}
        options={LINES}
        problem={at("line")}
        onChange={set("line")}
      />
      <NumberField
        label="Bevel angle, total"
        value={layer.bevel_deg}
        quantity="angle"
        step={5}
        problem={at("bevel_deg")}
        onChange={set("bevel_deg")}
      />
      <NumberField
        label="Gap"
        value={layer.gap_mm}
        quantity="length"
        step={0.5}
        problem={at("gap_mm")}
        onChange={set("gap_mm")}
      />
      <NumberField
        label="Horn arm"
        value={layer.horn_arm_mm}
        quantity="length"
        problem={at("horn_arm_mm")}
        onChange={set("horn_arm_mm")}
      />
    </>
  );
}
