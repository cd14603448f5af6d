import type { Catalogue, Part, Problem } from "../../../api/client";
import { Choice, NumberField, OptionalNumber } from "../../../forms/fields";
import { optionsOf } from "./materialOptions";

type Folded = Extract<Part["section"], { shape?: "folded" }>;

interface Props {
  section: Folded;
  catalogue: Catalogue;
  at: (key: string) => Problem | undefined;
  change: (edit: (part: Part) => Part) => void;
}

/** How a board is folded: over which spar, how its nose turns, where it is creased, how its tail is thinned. */
export function FoldedFields({ section, catalogue, at, change }: Props) {
  const set = (key: keyof Folded) => (value: unknown) =>
    change((p) => ({ ...p, section: { ...section, [key]: value } }));
  const problem = (key: string) => at(`section.${key}`);
  const crease = section.creases_percent[0] ?? null;
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Board"
          value={section.board}
          options={optionsOf(catalogue.sheets.filter((s) => s.build === "faced"))}
          problem={problem("board")}
          onChange={set("board")}
        />
      </div>
      <NumberField
        label="Spar's front wall"
        value={section.spar_front_percent}
        quantity="percent"
        problem={problem("spar_front_percent")}
        onChange={set("spar_front_percent")}
      />
      <NumberField
        label="Spar's rear wall"
        value={section.spar_rear_percent}
        quantity="percent"
        problem={problem("spar_rear_percent")}
        onChange={set("spar_rear_percent")}
      />
      <Choice
        label="Nose turns over"
        value={section.nose}
        options={[
          { value: "strip", label: "A foam-free strip" },
          { value: "bevels", label: "Paired bevels" },
          { value: "creases", label: "Creases side by side" },
        ]}
        onChange={set("nose")}
      />
      {section.nose !== "bevels" && (
        <NumberField
          label={section.nose === "strip" ? "Width of the strip" : "Width of all creases"}
          value={section.nose_mm}
          quantity="length"
          problem={problem("nose_mm")}
          onChange={set("nose_mm")}
        />
      )}
      {section.nose === "creases" && (
        <NumberField
          label="Creases"
          value={section.nose_creases}
          quantity="plain"
          whole
          problem={problem("nose_creases")}
          onChange={set("nose_creases")}
        />
      )}
      <NumberField
        label="Tail thinned over"
        value={section.tail_bevel_mm}
        quantity="length"
        problem={problem("tail_bevel_mm")}
        onChange={set("tail_bevel_mm")}
      />
      <OptionalNumber
        label="Crease ahead of the spar"
        value={crease}
        quantity="percent"
        problem={problem("creases_percent")}
        hint="open: none"
        onChange={(v) => set("creases_percent")(v === null ? [] : [v, ...section.creases_percent.slice(1)])}
      />
      {crease !== null && (
        <NumberField
          label="It bulges by"
          value={section.crease_rise_percent}
          quantity="percent"
          problem={problem("crease_rise_percent")}
          hint="of the depth at the spar"
          onChange={set("crease_rise_percent")}
        />
      )}
    </>
  );
}
