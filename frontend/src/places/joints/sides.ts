import type { Airframe, Catalogue } from "../../api/client";
import { bodyOf, gluedAs } from "../../part/gluing";

export interface Side {
  value: string;
  label: string;
  group: string;
}

/** Everything that can be one side of a joint. */
export function sidesOf(catalogue: Catalogue | undefined): Side[] {
  return (catalogue?.sides ?? []).map((s) => ({ value: s.key, label: s.name, group: s.group }));
}

export interface Meeting {
  value: string;
  label: string;
  group: string;
  one: string;
  other: string;
}

/**
 * What meets what in the builder's own airframes: the foam of every part with itself and with what lies on it; of a
 * hollow part its walls.
 */
export function meetingsIn(airframes: Airframe[], catalogue: Catalogue): Meeting[] {
  const out: Meeting[] = [];
  for (const airframe of airframes)
    for (const part of airframe.parts ?? []) {
      const one = bodyOf(part, catalogue);
      if (!one) continue;
      const name = catalogue.sides.find((s) => s.key === one)?.name ?? one;
      const add = (other: string, with_: string) => {
        const value = `${airframe.name}/${part.id}/${with_}`;
        if (!out.some((m) => m.value === value))
          out.push({ value, label: `${part.name}: ${name} on ${with_}`, group: airframe.name, one, other });
      };
      add(one, "itself");
      for (const layer of part.layers) {
        const stock =
          layer.type === "bar"
            ? layer.stock
            : layer.type === "wall"
              ? layer.sheet
              : layer.type === "strip" || layer.type === "film"
                ? layer.skin
                : undefined;
        if (stock === undefined || stock === one) continue;
        if (typeof stock !== "string") {
          add("composite", "resin laminate");
          continue;
        }
        const other = gluedAs(stock, one, catalogue);
        const found = [...catalogue.bars, ...catalogue.sheets, ...catalogue.skins].find(
          (m) => m.key === stock,
        );
        if (other) add(other, found?.name ?? stock);
      }
    }
  return out;
}
