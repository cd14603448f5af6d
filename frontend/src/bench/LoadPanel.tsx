import type { Estimate, LoadCase, Part, Problem } from "../api/client";
import { Choice, NumberField, TextField } from "../shared/fields";
import { problemAt, withCase } from "./edits";

interface Props {
  part: Part;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  chosen: LoadCase;
  pick: (id: string) => void;
  estimate: Estimate | null;
}

/** The load case that is chosen, with its inputs and what it stands for. */
export function LoadPanel({ part, problems, path, change, chosen, pick, estimate }: Props) {
  const index = part.cases.findIndex((c) => c.id === chosen.id);
  const at = (key: string) => problemAt(problems, `${path}.cases[${index}].${key}`);
  const set = (key: string) => (value: unknown) =>
    change((p) => withCase(p, chosen.id, (c) => ({ ...c, [key]: value }) as LoadCase));
  return (
    <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
      <div className="col-span-full">
        <Choice
          label="Load case"
          value={chosen.id}
          options={part.cases.map((c) => ({ value: c.id, label: c.name }))}
          onChange={pick}
        />
      </div>
      <div className="col-span-full">
        <TextField label="Name of the case" value={chosen.name} problem={at("name")} onChange={set("name")} />
      </div>
      {chosen.type === "pull_up" ? (
        <>
          <NumberField
            label="Speed"
            value={chosen.speed_m_s}
            quantity="speed"
            problem={at("speed_m_s")}
            onChange={set("speed_m_s")}
          />
          <NumberField
            label="Most lift, C_L"
            value={chosen.cl_max}
            quantity="plain"
            step={0.05}
            problem={at("cl_max")}
            onChange={set("cl_max")}
          />
          <div className="col-span-full">
            <Choice
              label="Lift along the span"
              value={chosen.lift}
              options={[
                { value: "schrenk", label: "Between chord and ellipse (Schrenk)" },
                { value: "elliptic", label: "Ellipse" },
              ]}
              onChange={set("lift")}
            />
          </div>
          <NumberField
            label="Half width of the saddle"
            value={chosen.saddle_mm}
            quantity="length"
            problem={at("saddle_mm")}
            onChange={set("saddle_mm")}
          />
        </>
      ) : (
        <>
          <NumberField
            label="First support"
            value={chosen.first_support_mm}
            quantity="length"
            step={5}
            problem={at("first_support_mm")}
            onChange={set("first_support_mm")}
          />
          <NumberField
            label="Second support"
            value={chosen.second_support_mm}
            quantity="length"
            step={5}
            problem={at("second_support_mm")}
            onChange={set("second_support_mm")}
          />
          <NumberField
            label="Weight in the middle"
            value={chosen.weight_g}
            quantity="mass"
            step={50}
            problem={at("weight_g")}
            onChange={set("weight_g")}
          />
        </>
      )}
      <NumberField
        label="Factor asked for"
        value={chosen.safety_factor}
        quantity="plain"
        step={0.1}
        problem={at("safety_factor")}
        onChange={set("safety_factor")}
      />
      <div className="col-span-full mt-2 border-t border-rule pt-3 text-[0.9rem] leading-snug">
        {estimate?.says && <p>{estimate.says[0]!.toUpperCase() + estimate.says.slice(1)}.</p>}
        {estimate?.warnings.map((w) => (
          <p key={w} className="mt-2 border-l-[3px] border-fail pl-3">
            {w}
          </p>
        ))}
      </div>
    </div>
  );
}
