import type { Catalogue, Part, Problem } from "../../../api/client";
import { Choice, NumberField, OptionalNumber } from "../../../forms/fields";
import { formOf } from "../../../forms/form";
import { optionsOf } from "../../../part/materialOptions";

type Folded = Extract<Part["section"], { shape?: "folded" }>;

interface Props {
  section: Folded;
  catalogue: Catalogue;
  at: (key: string) => Problem | undefined;
  change: (edit: (part: Part) => Part) => void;
}

/** How a board is folded: over which spar, how its nose turns, where it is creased, how its tail is thinned. */
export function FoldedFields({ section, catalogue, at, change }: Props) {
  const form = formOf(
    section,
    (edit) => change((p) => ({ ...p, section: edit(section) })),
    (key) => at(`section.${key}`),
  );
  const crease = section.creases_percent[0] ?? null;
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Board"

          options={optionsOf(catalogue.sheets.filter((s) => s.build === "faced"))}

          {...form.field("board")}
        />
      </div>
      <NumberField
        label="Spar front wall"

        quantity="percent"

        {...form.field("spar_front_percent")}
      />
      <NumberField
        label="Spar rear wall"

        quantity="percent"

        {...form.field("spar_rear_percent")}
      />
      <Choice
        label="Nose fold"
        value={section.nose}
        options={[
          { value: "strip", label: "Strip of bare paper" },
          { value: "bevels", label: "Two bevels" },
          { value: "creases", label: "Parallel creases" },
        ]}
        onChange={(nose) => form.set("nose", nose)}
      />
      {section.nose !== "bevels" && (
        <NumberField
          label={section.nose === "strip" ? "Width of the strip" : "Total crease width"}

          quantity="length"

          {...form.field("nose_mm")}
        />
      )}
      {section.nose === "creases" && (
        <NumberField
          label="Creases"

          quantity="plain"
          whole

          {...form.field("nose_creases")}
        />
      )}
      <NumberField
        label="Rear edge bevel length"

        quantity="length"

        {...form.field("tail_bevel_mm")}
      />
      <OptionalNumber
        label="Crease position"
        value={crease}
        quantity="percent"
        problem={form.at("creases_percent")}
        hint="empty = none"
        onChange={(v) =>
          form.set("creases_percent", v === null ? [] : [v, ...section.creases_percent.slice(1)])
        }
      />
      {crease !== null && (
        <NumberField
          label="Camber from the crease"

          quantity="percent"

          hint="of the spar depth"
          {...form.field("crease_rise_percent")}
        />
      )}
    </>
  );
}
