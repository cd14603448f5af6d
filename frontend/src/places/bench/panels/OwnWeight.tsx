import type { Problem } from "../../../api/client";
import { NumberField } from "../../../forms/fields";

interface Props {
  label: string;
  /** As weighed; null takes the table's. */
  weighed: number | null | undefined;
  table: number | undefined;
  step: number;
  problem: Problem | undefined;
  /** Why it is worth weighing. */
  why: string;
  set: (grams: number | null) => void;
}

/** The weight of a stock: the table's, or that of the very piece. */
export function OwnWeight({ label, weighed, table, step, problem, why, set }: Props) {
  return (
    <div className="col-span-full grid gap-2">
      <NumberField
        label={label}
        value={weighed ?? table ?? 0}
        quantity="plain"
        step={step}
        problem={problem}
        hint={weighed == null ? `From the table. ${why}` : "Your measurement."}
        onChange={set}
      />
      {weighed != null && (
        <button type="button" className="key-button" onClick={() => set(null)}>
          Use table value
        </button>
      )}
    </div>
  );
}
