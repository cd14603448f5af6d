import { namesIn } from "./useKeptHere";

const NAME = "fletcher-recent";
/** Under this name the browser keeps what is in the field box. */
export const BOX = "fletcher-field-box";
const KEPT = 24;
const SHOWN = 4;
/** Lists that are longer have what was used last on top. */
export const LONG = 12;

function kept(name: string): string[] {
  try {
    return namesIn(JSON.parse(window.localStorage.getItem(name) ?? "[]")) ?? [];
  } catch {
    return [];
  }
}

/** What was chosen last goes to the top of long lists; where the browser keeps nothing, nothing does. */
export function remember(value: string) {
  try {
    const next = [value, ...kept(NAME).filter((v) => v !== value)].slice(0, KEPT);
    window.localStorage.setItem(NAME, JSON.stringify(next));
  } catch {
    // full or blocked: the list stays in its order
  }
}

/** What was chosen last and what is in the field box; read anew with every `turn`. */
export const recent = (turn = 0) => ({ turn, last: kept(NAME), box: kept(BOX) });

interface Option {
  value: string;
  label: string;
  group?: string;
}

/** A long grouped list with what is in the field box and what was chosen last on top, besides its usual place. */
export function withRecent<O extends Option>(
  options: readonly O[],
  top = recent(),
): (O & { group?: string })[] {
  if (options.length <= LONG || !options.some((o) => o.group)) return [...options];
  const named = (values: string[], group: string, most: number) =>
    values
      .flatMap((v) => options.filter((o) => o.group && o.value === v))
      .slice(0, most)
      .map((o) => ({ ...o, group }));
  const box = named(top.box, "In your field box", KEPT);
  const boxed = new Set(box.map((o) => o.value));
  const recent = named(
    top.last.filter((v) => !boxed.has(v)),
    "Used last",
    SHOWN,
  );
  return [...options.filter((o) => !o.group), ...recent, ...box, ...options.filter((o) => o.group)];
}
