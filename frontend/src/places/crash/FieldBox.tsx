import type { Schemas } from "../../api/client";
import { useUsualBox } from "../../api/queries";
import { namesIn, useStored } from "../../forms/useStored";

/** What is at hand, kept on this machine; an empty box says nothing of it. */
export const useFieldBox = () => useStored<string[]>("fletcher-field-box", [], namesIn);

interface Props {
  box: string[];
  setBox: (box: string[]) => void;
  options: Schemas["MendOption"][];
}

/** What is at hand: repairs that need nothing else are preferred. */
export function FieldBox({ box, setBox, options }: Props) {
  const usual = useUsualBox().data ?? [];
  const known = new Map([...usual, ...options.flatMap((o) => o.needs)].map((n) => [n.key, n.name]));
  return (
    <details className="relative">
      <summary className="key-button inline-flex cursor-pointer items-center">
        At hand: {box.length === 0 ? "not said" : `${box.length} things`}
      </summary>
      <fieldset className="absolute z-20 mt-1 grid max-h-80 w-[34rem] max-w-[90vw] grid-cols-2 gap-x-4 overflow-y-auto border border-ink bg-raised p-3">
        <legend className="sr-only">In the field box</legend>
        {[...known].map(([key, name]) => (
          <label key={key} className="flex min-h-9 items-center gap-2 text-body">
            <input
              type="checkbox"
              checked={box.includes(key)}
              onChange={(e) => setBox(e.target.checked ? [...box, key] : box.filter((k) => k !== key))}
            />
            {name}
          </label>
        ))}
      </fieldset>
    </details>
  );
}
