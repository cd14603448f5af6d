import type { Airframe, Catalogue } from "../../api/client";

export interface Side {
  value: string;
  label: string;
  group: string;
}

/** What foam is glued to besides foam. */
const HARD: [string, string][] = [
  ["wood", "Wood or ply"],
  ["composite", "Carbon or glass"],
  ["plastic", "Rigid plastic"],
  ["film", "Film or tape"],
  ["metal", "Metal"],
  ["slick", "Nylon or polyethylene"],
];

/** Everything that can be one side of a joint. */
export function sidesOf(catalogue: Catalogue | undefined): Side[] {
  const foams = catalogue?.foams ?? [];
  return [
    ...foams.map((f) => ({ value: f.key, label: f.name, group: "Foam" })),
    ...HARD.map(([value, label]) => ({ value, label, group: "Other" })),
  ];
}

export interface Meeting {
  value: string;
  label: string;
  group: string;
  one: string;
  other: string;
}

/** What meets what in the builder's own airframes: the foam of every part with itself and with what lies on it. */
export function meetingsIn(airframes: Airframe[], catalogue: Catalogue): Meeting[] {
  const sorts = catalogue.sorts;
  const out: Meeting[] = [];
  for (const airframe of airframes)
    for (const part of airframe.parts ?? []) {
      if (!part.foam) continue;
      const one = part.foam;
      const foam = catalogue.foams.find((f) => f.key === one)?.name ?? one;
      const add = (other: string, with_: string) => {
        const value = `${airframe.name}/${part.id}/${with_}`;
        if (!out.some((m) => m.value === value))
          out.push({ value, label: `${part.name}: ${foam} on ${with_}`, group: airframe.name, one, other });
      };
      add(one, "itself");
      for (const layer of part.layers) {
        const found =
          layer.type === "bar"
            ? catalogue.bars.find((b) => b.key === layer.stock)
            : layer.type === "wall"
              ? catalogue.sheets.find((s) => s.key === layer.sheet)
              : (layer.type === "strip" || layer.type === "film") && typeof layer.skin === "string"
                ? catalogue.skins.find((s) => s.key === layer.skin)
                : undefined;
        const sort = found && sorts[found.family];
        if (found && sort) add(sort === "foam" ? one : sort, found.name);
        if ((layer.type === "strip" || layer.type === "film") && typeof layer.skin !== "string")
          add("composite", "cloth in resin");
      }
    }
  return out;
}
