import type { Catalogue, LoadCase, Problem } from "../../../api/client";
import { Choice, NumberField, Tick } from "../../../forms/fields";
import type { Quantity } from "../../../forms/units";
import { barOptions } from "../../../part/materialOptions";

type Run = NonNullable<Extract<LoadCase, { type: "deflected" }>["run"]>;

const FIRST: Run = {
  rod: "music_wire_1.5",
  length_mm: 200,
  support_mm: 100,
  horn_arm_mm: 12,
  servo_arm_mm: 10,
  in_tube: false,
  bend_deg: 0,
  bend_radius_mm: 250,
  servo: "servo_9g",
};

const SIZES: [keyof Run, string, Quantity][] = [
  ["length_mm", "Servo to horn", "length"],
  ["support_mm", "Guide spacing", "length"],
  ["horn_arm_mm", "Horn arm", "length"],
  ["servo_arm_mm", "Servo arm", "length"],
  ["bend_deg", "Total bend angle", "angle"],
  ["bend_radius_mm", "Tightest bend radius", "length"],
];

interface Props {
  run: Run | null | undefined;
  catalogue: Catalogue;
  at: (key: string) => Problem | undefined;
  set: (run: Run | null) => void;
}

/** What leads from the servo to the horn. */
export function RunFields({ run, catalogue, at, set }: Props) {
  const problem = (key: string) => at(`run.${key}`);
  return (
    <div className="col-span-full grid grid-cols-2 items-start gap-x-4 gap-y-3 border-t border-rule pt-2">
      <div className="col-span-full">
        <Tick label="Include pushrod flex" checked={run != null} onChange={(on) => set(on ? FIRST : null)} />
      </div>
      {run && (
        <>
          <div className="col-span-full">
            <Choice
              label="Pushrod"
              value={run.rod}
              options={barOptions(catalogue, (b) => b.shape !== "flat")}
              problem={problem("rod")}
              onChange={(rod) => set({ ...run, rod })}
            />
          </div>
          <div className="col-span-full">
            <Choice
              label="Servo"
              value={run.servo ?? ""}
              options={[
                { value: "", label: "Not chosen" },
                ...catalogue.fittings
                  .filter((f) => f.family === "servo")
                  .map((f) => ({ value: f.key, label: f.name })),
              ]}
              problem={problem("servo")}
              onChange={(servo) => set({ ...run, servo: servo || null })}
            />
          </div>
          {SIZES.filter(([key]) => key !== "bend_radius_mm" || run.bend_deg > 0).map(
            ([key, label, quantity]) => (
              <NumberField
                key={key}
                label={label}
                value={run[key] as number}
                quantity={quantity}
                step={5}
                problem={problem(key)}
                onChange={(v) => set({ ...run, [key]: v })}
              />
            ),
          )}
          <div className="col-span-full">
            <Tick
              label="In a guide tube"
              checked={run.in_tube}
              onChange={(in_tube) => set({ ...run, in_tube })}
            />
          </div>
        </>
      )}
    </div>
  );
}
