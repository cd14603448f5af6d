import type { Estimate, LoadCase, Part, Problem } from "../../../api/client";
import { OptionalNumber } from "../../../forms/fields";
import { Word } from "../../../words/Word";
import { bare, show, type Quantity } from "../../../forms/units";
import { problemAt, withCase } from "../../../part/edits";
import { TARGET_FIGURES, targetWords } from "../targets";

type Between = { low?: number | null; high?: number | null };

interface Props {
  part: Part;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  chosen: LoadCase;
  estimate: Estimate | null;
}

interface RangeProps {
  figure: keyof typeof TARGET_FIGURES;
  value: Between | null | undefined;
  problem: Problem | undefined;
  estimate: Estimate | null;
  onChange: (value: Between | null) => void;
}

function Range({ figure, value, problem, estimate, onChange }: RangeProps) {
  const { label, quantity } = TARGET_FIGURES[figure]!;
  const result = estimate?.targets.find((t) => t.figure === figure);
  const set = (end: "low" | "high") => (v: number | null) => {
    const next = { low: value?.low ?? null, high: value?.high ?? null, [end]: v };
    onChange(next.low === null && next.high === null ? null : next);
  };
  return (
    <fieldset className="border-t border-rule pt-2">
      <legend className="sr-only">{label}</legend>
      <p aria-hidden="true" className="font-semibold">
        {label}
      </p>
      <div className="mt-1 grid grid-cols-2 gap-x-4">
        <OptionalNumber
          label="Minimum"
          name={`${label}, minimum`}
          value={value?.low ?? null}
          quantity={quantity}
          problem={problem}
          onChange={set("low")}
        />
        <OptionalNumber
          label="Maximum"
          name={`${label}, maximum`}
          value={value?.high ?? null}
          quantity={quantity}
          onChange={set("high")}
        />
      </div>
      {result && (
        <p className={`mt-1 text-small leading-snug ${result.met === "no" ? "text-fail" : "text-soft"}`}>
          {now(result.value.typ, quantity)} now ({bare(result.value.low, quantity, 2)} to{" "}
          {bare(result.value.high, quantity, 2)}): {targetWords(result)}
        </p>
      )}
    </fieldset>
  );
}

const now = (value: number, quantity: Quantity) => show(value, quantity);

/** What the builder wants, as ranges: some wings are meant to flex. */
export function TargetsPanel({ part, problems, path, change, chosen, estimate }: Props) {
  const index = part.cases.findIndex((c) => c.id === chosen.id);
  const ofCase = (key: "bend_mm" | "twist_deg") => (value: Between | null) =>
    change((p) => withCase(p, chosen.id, (c) => ({ ...c, [key]: value })));
  const ofPart = (key: keyof Part["targets"]) => (value: Between | null) =>
    change((p) => ({ ...p, targets: { ...p.targets, [key]: value } }));
  const at = (key: string) => problemAt(problems, `${path}.${key}`);
  const shared = { estimate };
  return (
    <div className="grid gap-4">
      <p className="leading-snug text-soft">
        Set a <Word k="target">target</Word> where it matters and leave the rest open. The verdict marks every
        figure that has one.
      </p>
      <h2 className="border-b border-ink font-semibold">In “{chosen.name}”</h2>
      <Range
        figure="bend"
        value={chosen.bend_mm}
        problem={at(`cases[${index}].bend_mm`)}
        onChange={ofCase("bend_mm")}
        {...shared}
      />
      <Range
        figure="twist"
        value={chosen.twist_deg}
        problem={at(`cases[${index}].twist_deg`)}
        onChange={ofCase("twist_deg")}
        {...shared}
      />
      <h2 className="border-b border-ink font-semibold">In every load case</h2>
      <Range
        figure="margin"
        value={part.targets.margin}
        problem={at("targets.margin")}
        onChange={ofPart("margin")}
        {...shared}
      />
      <Range
        figure="added"
        value={part.targets.added_g}
        problem={at("targets.added_g")}
        onChange={ofPart("added_g")}
        {...shared}
      />
      <Range
        figure="balance"
        value={part.targets.balance_mm}
        problem={at("targets.balance_mm")}
        onChange={ofPart("balance_mm")}
        {...shared}
      />
      {part.foam && (
        <Range
          figure="toughness"
          value={part.targets.toughness_mJ}
          problem={at("targets.toughness_mJ")}
          onChange={ofPart("toughness_mJ")}
          {...shared}
        />
      )}
      <Range
        figure="bow"
        value={part.targets.bow_mm}
        problem={at("targets.bow_mm")}
        onChange={ofPart("bow_mm")}
        {...shared}
      />
    </div>
  );
}
