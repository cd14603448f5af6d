import { DropdownMenu } from "radix-ui";
import type { Catalogue, Part, Problem, Schemas } from "../api/client";
import { Choice, NumberField, OptionalNumber, TextField, Tick } from "../forms/fields";
import { numberAt, setterOf, type NumberKey, type Setter } from "../forms/form";
import { lineName, problemAt } from "./edits";
import { MarkMenu, withMark, type Mark } from "./MarkMenu";
import { answered, StillWhole } from "./StillWhole";
import type { Subject } from "./useStudy";

type Kind = Mark["kind"];

export const MARKS: Record<Kind, string> = {
  crack: "Crack",
  break: "Clean break",
  crush: "Crushed area",
  missing: "Missing piece",
  crease: "Crease",
  opened: "Open seam or fold",
  peeled: "Peeled skin or tape",
  bar: "Broken spar",
  loose: "Loose joint or hinge",
  bent: "Bent or twisted",
};

const LINES: Partial<Record<Kind, string[]>> = {
  peeled: ["strip", "film", "wall"],
  bar: ["bar"],
  loose: ["joint", "hinge"],
};

interface Props {
  subject: Subject;
  part: Part;
  catalogue: Catalogue;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  /** What has to be looked at, and what was found of it. */
  asked: Schemas["Asked"][];
}

/** Every mark of damage with its place and extent. */
export function Marks({ subject, part, catalogue, problems, path, change, asked }: Props) {
  const marks = part.damage ?? [];
  const set = (id: string, next: Mark | null) =>
    change((p) => ({
      ...p,
      damage: (p.damage ?? []).flatMap((m) => (m.id !== id ? [m] : next === null ? [] : [next])),
    }));
  return (
    <>
      {marks.length === 0 && (
        <p className="py-2 text-body text-soft">
          Nothing is marked. Press on the plan where it broke, or mark it here: what is left of the part is
          told below. The Bench goes on showing the part whole.
        </p>
      )}
      <ol aria-label="Damage marks">
        {marks.map((m, n) => (
          <li key={m.id} className="border-b border-rule py-2">
            <fieldset className="grid grid-cols-4 items-start gap-x-4 gap-y-2 max-md:grid-cols-2">
              <legend className="font-semibold">
                {n + 1} {MARKS[m.kind]}
              </legend>
              <Fields
                mark={m}
                {...{ part, catalogue }}
                at={(key) => problemAt(problems, `${path}.damage[${n}].${key}`)}
                set={setterOf(m, (next) => set(m.id, next))}
              />
              {"whole" in m && (
                <StillWhole
                  asked={asked.filter((a) => a.mark_id === m.id)}
                  seen={m}
                  answer={(line, found) => set(m.id, answered(m, line, found))}
                />
              )}
              <div className="col-span-2">
                <TextField
                  label="Note"
                  value={m.note}
                  longest={400}
                  onChange={(note) => set(m.id, { ...m, note })}
                />
              </div>
              <button
                type="button"
                className="key-button mt-5 justify-self-start text-fail"
                onClick={() => set(m.id, null)}
              >
                Remove<span className="sr-only"> mark {n + 1}</span>
              </button>
            </fieldset>
          </li>
        ))}
      </ol>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="key-button mt-3" disabled={marks.length >= 24}>
          Mark damage
        </DropdownMenu.Trigger>
        <MarkMenu
          subject={subject}
          pressed={{ at: Math.round(part.span_mm / 3), percent: null }}
          put={(mark) => change(withMark(mark))}
        />
      </DropdownMenu.Root>
    </>
  );
}

const EDGES = [
  { value: "front", label: "Front edge" },
  { value: "rear", label: "Rear edge" },
] as const;
const FACES = [
  { value: "upper", label: "Upper face" },
  { value: "lower", label: "Lower face" },
  ...EDGES,
] as const;
const THROUGH = { value: "through", label: "Right through" } as const;

interface FieldsProps {
  mark: Mark;
  part: Part;
  catalogue: Catalogue;
  at: (key: string) => Problem | undefined;
  set: Setter<Mark>;
}

function Fields({ mark, part, catalogue, at, set }: FieldsProps) {
  const number = (
    key: NumberKey<Mark>,
    label: string,
    quantity: "length" | "percent" | "angle",
    step = 5,
  ) => (
    <NumberField
      label={label}
      value={numberAt(mark, key) ?? 0}
      quantity={quantity}
      step={step}
      problem={at(key)}
      onChange={set(key)}
    />
  );
  const edge = "face" in mark && (mark.face === "front" || mark.face === "rear");
  const lines = part.layers
    .map((l, i) => ({ value: l.id, label: `${i + 1} ${lineName(l, catalogue)}`, type: l.type }))
    .filter((l) => LINES[mark.kind]?.includes(l.type));
  return (
    <>
      {"of" in mark && (
        <div className="col-span-2">
          <Choice label="Item" value={mark.of} options={lines} problem={at("of")} onChange={set("of")} />
        </div>
      )}
      {"at_mm" in mark && mark.kind !== "bent" && number("at_mm", "Position from root", "length")}
      {mark.kind === "bent" && (
        <OptionalNumber
          label="Kinked at"
          value={mark.at_mm ?? null}
          quantity="length"
          problem={at("at_mm")}
          onChange={set("at_mm")}
        />
      )}
      {mark.kind === "opened" && (
        <Choice
          label="Along the"
          value={mark.edge}
          options={EDGES}
          problem={at("edge")}
          onChange={set("edge")}
        />
      )}
      {mark.kind === "bar" && (
        <>
          <Choice
            label="Type of break"
            value={mark.how}
            options={[
              { value: "broken", label: "broken" },
              { value: "split", label: "split lengthwise" },
              { value: "pulled_out", label: "pulled out from here" },
            ]}
            onChange={set("how")}
          />
          <Choice
            label="Which of the pair"
            value={mark.side}
            options={[
              { value: "both", label: "both, or single" },
              { value: "upper", label: "upper" },
              { value: "lower", label: "lower" },
            ]}
            problem={at("side")}
            onChange={set("side")}
          />
        </>
      )}
      {mark.kind === "loose" ? (
        <>
          <OptionalNumber
            label="From"
            value={mark.start_mm ?? null}
            quantity="length"
            problem={at("start_mm")}
            onChange={set("start_mm")}
          />
          <OptionalNumber
            label="To"
            value={mark.end_mm ?? null}
            quantity="length"
            problem={at("end_mm")}
            onChange={set("end_mm")}
          />
        </>
      ) : (
        "start_mm" in mark && (
          <>
            {number("start_mm", "From", "length")}
            {number("end_mm", "To", "length")}
          </>
        )
      )}
      {"face" in mark && (
        <Choice
          label="From which face"
          value={mark.face}
          options={mark.kind === "missing" ? [...FACES, THROUGH] : FACES}
          problem={at("face")}
          onChange={set("face")}
        />
      )}
      {"from_percent" in mark && !edge && (
        <>
          {number("from_percent", "Chord position, from", "percent")}
          {number("to_percent", "Chord position, to", "percent")}
        </>
      )}
      {"depth_mm" in mark && number("depth_mm", edge ? "Length of crack" : "Depth", "length", 1)}
      {mark.kind === "crack" && (
        <Tick label="Skins torn too" checked={mark.skins_torn} onChange={set("skins_torn")} />
      )}
      {mark.kind === "crush" && (
        <Tick label="Already swelled with heat" checked={mark.warmed} onChange={set("warmed")} />
      )}
      {mark.kind === "bent" && (
        <>
          {number("tip_mm", "Tip offset, up +", "length", 1)}
          {number("twist_deg", "Tip twist, nose up +", "angle", 1)}
        </>
      )}
    </>
  );
}
