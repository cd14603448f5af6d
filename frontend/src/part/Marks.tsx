import { DropdownMenu } from "radix-ui";
import type { Catalogue, Part, Problem, Schemas } from "../api/client";
import { Choice, NumberField, OptionalNumber, TextField, Tick } from "../forms/fields";
import { freshId } from "../forms/ids";
import { lineName, problemAt } from "./edits";
import { answered, StillWhole } from "./StillWhole";

type Mark = NonNullable<Part["damage"]>[number];
type Kind = Mark["kind"];

export const MARKS: Record<Kind, string> = {
  crack: "Crack",
  break: "Clean break",
  crush: "Crushed zone",
  missing: "Missing piece",
  peeled: "Peeled skin or strip",
  bar: "Broken bar",
  loose: "Loose joint or torn hinge",
  bent: "Bent or twisted",
};

const LINES: Partial<Record<Kind, string[]>> = {
  peeled: ["strip", "film", "wall"],
  bar: ["bar"],
  loose: ["joint", "hinge"],
};

/** Nobody has looked yet at what crosses a mark. */
const UNSEEN = { whole: [], broken: [] };

/** A new mark in the middle of the part; of a line: of the first that it can be of. */
function fresh(kind: Kind, part: Part, id: string): Mark {
  const at = Math.round(part.span_mm / 3);
  const span = { start_mm: at, end_mm: Math.min(at + 60, part.span_mm) };
  const of = part.layers.find((l) => LINES[kind]?.includes(l.type))?.id ?? "";
  const base = { id, note: "" };
  const thick = Math.min(part.root_thickness_mm, part.tip_thickness_mm);
  const deep = Math.max(0.5, Math.round(5 * thick) / 10);
  switch (kind) {
    case "crack":
      return {
        ...base,
        ...UNSEEN,
        kind,
        at_mm: at,
        face: "upper",
        from_percent: 10,
        to_percent: 60,
        depth_mm: deep,
        skins_torn: false,
      };
    case "break":
      return { ...base, ...UNSEEN, kind, at_mm: at };
    case "crush":
      return {
        ...base,
        ...UNSEEN,
        kind,
        ...span,
        face: "front",
        from_percent: 5,
        to_percent: 30,
        depth_mm: 6,
        warmed: false,
      };
    case "missing":
      return {
        ...base,
        ...UNSEEN,
        kind,
        ...span,
        face: "rear",
        from_percent: 70,
        to_percent: 95,
        depth_mm: 15,
      };
    case "peeled":
      return { ...base, kind, of, ...span };
    case "bar":
      return { ...base, kind, of, at_mm: at, how: "broken", side: "both" };
    case "loose":
      return { ...base, kind, of, start_mm: null, end_mm: null };
    case "bent":
      return { ...base, ...UNSEEN, kind, tip_mm: 5, twist_deg: 0 };
  }
}

interface Props {
  part: Part;
  catalogue: Catalogue;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  /** What has to be looked at, and what was found of it. */
  asked: Schemas["Asked"][];
}

/** Every mark of damage with its place and extent. */
export function Marks({ part, catalogue, problems, path, change, asked }: Props) {
  const marks = part.damage ?? [];
  const put = (kind: Kind) =>
    change((p) => {
      const id = freshId(
        "mark",
        (p.damage ?? []).map((m) => m.id),
      );
      return { ...p, damage: [...(p.damage ?? []), fresh(kind, p, id)] };
    });
  const set = (id: string, next: Mark | null) =>
    change((p) => ({
      ...p,
      damage: (p.damage ?? []).flatMap((m) => (m.id !== id ? [m] : next === null ? [] : [next])),
    }));
  const can = (kind: Kind) => !LINES[kind] || part.layers.some((l) => LINES[kind]!.includes(l.type));
  return (
    <>
      {marks.length === 0 && (
        <p className="py-2 text-body text-soft">
          Nothing is marked. Mark what you found: it is drawn on the plan, and what is left of the part is
          told below. The Bench goes on showing the part whole.
        </p>
      )}
      <ol aria-label="Marks of damage">
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
                set={(key) => (value) => set(m.id, { ...m, [key]: value })}
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
                Take out<span className="sr-only"> mark {n + 1}</span>
              </button>
            </fieldset>
          </li>
        ))}
      </ol>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="key-button mt-3" disabled={marks.length >= 24}>
          Mark damage
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={4}
            className="z-20 max-h-(--radix-dropdown-menu-content-available-height) min-w-60 overflow-y-auto border border-ink bg-raised"
          >
            {(Object.keys(MARKS) as Kind[]).filter(can).map((kind) => (
              <DropdownMenu.Item
                key={kind}
                onSelect={() => put(kind)}
                className="flex min-h-11 cursor-pointer items-center px-4 outline-none data-highlighted:bg-pick-wash"
              >
                {MARKS[kind]}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </>
  );
}

const FACES = [
  { value: "upper", label: "Upper face" },
  { value: "lower", label: "Lower face" },
  { value: "front", label: "Front edge" },
  { value: "rear", label: "Rear edge" },
];

interface FieldsProps {
  mark: Mark;
  part: Part;
  catalogue: Catalogue;
  at: (key: string) => Problem | undefined;
  set: (key: string) => (value: unknown) => void;
}

function Fields({ mark, part, catalogue, at, set }: FieldsProps) {
  const number = (key: string, label: string, quantity: "length" | "percent" | "angle", step = 5) => (
    <NumberField
      label={label}
      value={(mark as unknown as Record<string, number>)[key]!}
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
          <Choice label="Of" value={mark.of} options={lines} problem={at("of")} onChange={set("of")} />
        </div>
      )}
      {"at_mm" in mark && number("at_mm", "Place, from the root", "length")}
      {mark.kind === "bar" && (
        <>
          <Choice
            label="It is"
            value={mark.how}
            options={[
              { value: "broken", label: "broken" },
              { value: "split", label: "split lengthwise" },
              { value: "pulled_out", label: "pulled out from here on" },
            ]}
            onChange={set("how")}
          />
          <Choice
            label="Of a pair"
            value={mark.side}
            options={[
              { value: "both", label: "both, or single" },
              { value: "upper", label: "the upper" },
              { value: "lower", label: "the lower" },
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
          label="From the"
          value={mark.face}
          options={mark.kind === "missing" ? [...FACES, { value: "through", label: "Right through" }] : FACES}
          problem={at("face")}
          onChange={set("face")}
        />
      )}
      {"from_percent" in mark && !edge && (
        <>
          {number("from_percent", "Behind nose, from", "percent")}
          {number("to_percent", "Behind nose, to", "percent")}
        </>
      )}
      {"depth_mm" in mark && number("depth_mm", edge ? "Goes in by" : "Deep", "length", 1)}
      {mark.kind === "crack" && (
        <Tick label="Skins are torn there" checked={mark.skins_torn} onChange={set("skins_torn")} />
      )}
      {mark.kind === "crush" && (
        <Tick label="Swelled back by warmth" checked={mark.warmed} onChange={set("warmed")} />
      )}
      {mark.kind === "bent" && (
        <>
          {number("tip_mm", "Tip stands off, up +", "length", 1)}
          {number("twist_deg", "Twist at the tip, nose up +", "angle", 1)}
        </>
      )}
    </>
  );
}
