import type { Schemas } from "../../api/client";
import { useCatalogue, useOwn, useUsualBox } from "../../api/queries";
import { Choice } from "../../forms/fields";
import { BOX } from "../../forms/recent";
import { optionsOf } from "../../part/materialOptions";
import { namesIn, useKeptHere } from "../../forms/useKeptHere";

/** What is at hand, kept on this machine; an empty box says nothing of it. */
export const useFieldBox = () => useKeptHere<string[]>(BOX, [], namesIn);

interface Props {
  box: string[];
  setBox: (box: string[]) => void;
  options: Schemas["MendOption"][];
}

/** What is at hand: repairs that need nothing else are preferred. Anything of the stockroom can be put in. */
export function FieldBox({ box, setBox, options }: Props) {
  const usual = useUsualBox().data ?? [];
  const catalogue = useCatalogue().data;
  const stock = catalogue
    ? [
        catalogue.adhesives,
        catalogue.bars,
        catalogue.skins,
        catalogue.sheets,
        catalogue.cloths,
        catalogue.cords,
      ].flat()
    : [];
  const listed = [...usual, ...options.flatMap((o) => o.needs)].map((n) => [n.key, n.name] as const);
  const own = stock.filter((m) => box.includes(m.key)).map((m) => [m.key, m.name] as const);
  const known = new Map<string, string>();
  for (const [key, name] of [...listed, ...own]) if (!known.has(key)) known.set(key, name);
  const rest = stock.filter((m) => !known.has(m.key));
  return (
    <details className="relative print:hidden">
      <summary className="key-button inline-flex cursor-pointer items-center">
        Field box:{" "}
        {box.length === 0 ? "not filled in" : `${box.length} ${box.length === 1 ? "item" : "items"}`}
      </summary>
      <div className="absolute z-20 mt-1 w-[34rem] max-w-[90vw] border border-ink bg-raised p-3">
        <fieldset className="max-h-72 overflow-y-auto">
          <legend className="sr-only">Your field box</legend>
          <div className="grid grid-cols-2 gap-x-4 max-sm:grid-cols-1">
            {[...known].map(([key, name]) => (
              <label key={key} className="flex min-h-9 items-center gap-2 text-body">
                <input
                  type="checkbox"
                  checked={box.includes(key)}
                  onChange={(e) => setBox(e.target.checked ? [...box, key] : box.filter((k) => k !== key))}
                />
                <span className="leading-snug">{name}</span>
              </label>
            ))}
          </div>
        </fieldset>
        <FromStock box={box} setBox={setBox} />
        {rest.length > 0 && (
          <Choice<string>
            label="Another item"
            value=""
            options={[{ value: "", label: "choose what else is there" }, ...optionsOf(rest)]}
            onChange={(key) => key && setBox([...box, key])}
          />
        )}
      </div>
    </details>
  );
}

/** Puts all that is on the own shelf into the box. */
function FromStock({ box, setBox }: Pick<Props, "box" | "setBox">) {
  const own = useOwn().data ?? [];
  const keys = [...new Set(own.filter((t) => t.item.origin !== "scrap").map((t) => t.item.key))];
  const more = keys.filter((k) => !box.includes(k));
  if (more.length === 0) return null;
  return (
    <button type="button" className="key-button my-2" onClick={() => setBox([...box, ...more])}>
      Add what is in the Stockroom ({more.length})
    </button>
  );
}
