import type { Estimate, Part } from "../../../api/client";
import { SIGN } from "../../../words/grades";

interface PickerProps {
  part: Part;
  estimate: Estimate | null;
  chosen: { id: string };
  pickCase: (id: string) => void;
}

/** The kept cases: side by side while they are few, else in a list; what is not enough, or doubtful, has its sign. */
export function CasePicker({ part, estimate, chosen, pickCase }: PickerProps) {
  const marked = (id: string, name: string) => {
    const grade = estimate?.verdicts.find((v) => v.case_id === id)?.enough;
    return grade === "no" || grade === "doubtful" ? `${SIGN[grade]} ${name}` : name;
  };
  if (part.cases.length > 2)
    return (
      <select
        aria-label="Load case"
        className="field-box w-64"
        value={chosen.id}
        onChange={(e) => pickCase(e.target.value)}
      >
        {part.cases.map((c) => (
          <option key={c.id} value={c.id}>
            {marked(c.id, c.name)}
          </option>
        ))}
      </select>
    );
  return (
    <div role="radiogroup" aria-label="Load case" className="flex gap-1">
      {part.cases.map((c) => (
        <button
          key={c.id}
          type="button"
          role="radio"
          aria-checked={c.id === chosen.id}
          onClick={() => pickCase(c.id)}
          className="label-type min-h-10 border border-transparent px-3 aria-checked:border-ink aria-checked:bg-raised"
        >
          {marked(c.id, c.name)}
        </button>
      ))}
    </div>
  );
}
