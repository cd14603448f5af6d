import { graded } from "../../../words/grades";
import { useState } from "react";
import {
  api,
  problemsOf,
  type Airframe,
  type Catalogue,
  type Estimate,
  type LoadCase,
  type Part,
  type Problem,
} from "../../../api/client";
import { useCaseKinds } from "../../../api/queries";
import { Choice, NumberField, TextField, Tick } from "../../../forms/fields";
import { numberAt, type NumberKey, type Setter } from "../../../forms/form";
import { plain, show, type Quantity } from "../../../forms/units";
import { problemAt, withCase } from "../../../part/edits";
import { Control, inKind, Speeds } from "./LoadFindings";
import { BY_FACTOR, forFactor } from "./loadFactor";
import { RunFields } from "./RunFields";

interface Props {
  part: Part;
  document: Airframe;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  chosen: LoadCase;
  pick: (id: string) => void;
  estimate: Estimate | null;
  catalogue: Catalogue;
  openWorking: (figure: string) => void;
}

/** Inputs by the name of their field, in the order in which they are asked for. */
const FIGURES: [NumberKey<LoadCase>, string, Quantity, number][] = [
  ["speed_m_s", "Speed", "speed", 1],
  ["cl_max", "Maximum lift coefficient", "plain", 0.05],
  ["bank_deg", "Bank angle", "angle", 5],
  ["gust_m_s", "Gust speed", "speed", 1],
  ["pull_N", "Line tension", "force", 5],
  ["sink_m_s", "Sink speed", "speed", 0.1],
  ["stop_mm", "Stopping distance", "length", 5],
  ["stroke_mm", "Throwing stroke", "length", 50],
  ["contact_mm", "Pole diameter", "length", 5],
  ["force_N", "Hand force", "force", 1],
  ["weight_g", "Hung mass", "mass", 50],
  ["couple_N_mm", "Torque", "couple", 20],
  ["first_support_mm", "First support at", "length", 5],
  ["second_support_mm", "Second support at", "length", 5],
  ["saddle_mm", "Saddle half-width", "length", 5],
  ["end_mass_g", "Mass at far end", "mass", 10],
  ["width_mm", "Total strap width", "length", 1],
  ["hard_strip_mm", "Edge strip length", "length", 5],
  ["area_cm2", "Tail area, cm²", "plain", 10],
  ["cl", "Lift coefficient", "plain", 0.05],
  ["height_mm", "Force height above axis", "length", 5],
  ["torque_N_mm", "Torque", "couple", 10],
  ["free_mm", "Crush length of nose", "length", 5],
  ["mount_g", "Mounts survive, × gravity", "plain", 10],
  ["deflection_deg", "Deflection", "angle", 1],
  ["chord_percent", "Surface chord, %", "percent", 1],
  ["balance_percent", "Ahead of its hinge", "percent", 5],
  ["hinges", "Hinges", "plain", 1],
];

const PULLS: Record<string, string> = { tow: "Line tension", strap: "Strap tension" };

const WAYS = [
  { value: "up", label: "Up" },
  { value: "down", label: "Down" },
] as const;
const SIDEWAYS = { value: "side", label: "Sideways" } as const;
const LIFTS = [
  { value: "schrenk", label: "Schrenk (chord and ellipse)" },
  { value: "elliptic", label: "Elliptical" },
] as const;

interface FactorProps {
  chosen: LoadCase;
  has: number;
  onChange: (fields: Partial<LoadCase>) => void;
}

/** The load factor of a case in the air, typed: what gives it is changed. */
function FactorField({ chosen, has, onChange }: FactorProps) {
  const [refused, setRefused] = useState(false);
  return (
    <NumberField
      label="Load factor, × gravity"
      value={Number(has.toPrecision(3))}
      quantity="plain"
      step={0.5}
      hint={BY_FACTOR[chosen.type]}
      problem={refused ? { path: "", message: "This load case cannot have that load factor." } : undefined}
      onChange={(wanted) => {
        const fields = forFactor(chosen, has, wanted);
        setRefused(fields === null);
        if (fields) onChange(fields);
      }}
    />
  );
}

/** The kept load cases with what each says, and the inputs of the chosen one. */
export function LoadPanel(props: Props) {
  const { part, problems, path, change, chosen, pick, estimate, catalogue, openWorking } = props;
  const index = part.cases.findIndex((c) => c.id === chosen.id);
  const at = (key: string) => problemAt(problems, `${path}.cases[${index}].${key}`);
  const set: Setter<LoadCase> = (key) => (value) =>
    change((p) => withCase(p, chosen.id, (c) => ({ ...c, [key]: value })));
  const remove = () => {
    const rest = part.cases.filter((c) => c.id !== chosen.id);
    change((p) => ({ ...p, cases: rest }));
    pick(rest[0]!.id);
  };
  return (
    <div className="grid gap-4">
      <Cases {...{ part, estimate, chosen, pick }} />
      <AddCase {...props} />
      <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3 border-t border-ink pt-3">
        <div className="col-span-full">
          <TextField label="Case name" value={chosen.name} problem={at("name")} onChange={set("name")} />
        </div>
        {FIGURES.filter(([key]) => key in chosen).map(([key, label, quantity, step]) => (
          <NumberField
            key={chosen.id + key}
            label={key === "pull_N" ? (PULLS[chosen.type] ?? label) : label}
            value={numberAt(chosen, key) ?? 0}
            quantity={quantity}
            step={step}
            whole={key === "hinges"}
            problem={at(key)}
            onChange={set(key)}
          />
        ))}
        {"horn_mm" in chosen && (
          <NumberField
            label="Horn position from root"
            value={chosen.horn_mm ?? part.span_mm / 2}
            quantity="length"
            step={10}
            problem={at("horn_mm")}
            hint={estimate?.control ? `best at ${show(estimate.control.best_horn_mm, "length")}` : undefined}
            onChange={set("horn_mm")}
          />
        )}
        {"at_mm" in chosen && (
          <NumberField
            label="Load position from root"
            value={chosen.at_mm ?? estimate?.acts_at_mm ?? part.span_mm}
            quantity="length"
            step={10}
            problem={at("at_mm")}
            hint={chosen.at_mm == null ? "empty: near the tip" : undefined}
            onChange={set("at_mm")}
          />
        )}
        {"way" in chosen && (
          <div className="col-span-full">
            <Choice
              label="Direction"
              value={chosen.way}
              options={chosen.type === "tail_load" ? [...WAYS, SIDEWAYS] : WAYS}
              onChange={set("way")}
            />
          </div>
        )}
        {"lift" in chosen && (
          <div className="col-span-full">
            <Choice label="Lift distribution" value={chosen.lift} options={LIFTS} onChange={set("lift")} />
          </div>
        )}
        {chosen.type === "deflected" && (
          <RunFields run={chosen.run} set={set("run")} {...{ catalogue, at }} />
        )}
        {BY_FACTOR[chosen.type] && estimate?.measure.name === "load factor" && (
          <FactorField
            key={chosen.id}
            {...{ chosen }}
            has={estimate.measure.value}
            onChange={(fields) =>
              change((p) => withCase(p, chosen.id, (c) => ({ ...c, ...fields }) as LoadCase))
            }
          />
        )}
        <NumberField
          label="Safety factor"
          value={chosen.safety_factor}
          quantity="plain"
          step={0.1}
          problem={at("safety_factor")}
          onChange={set("safety_factor")}
        />
        <div className="col-span-full">
          <Tick
            label="Counts towards the verdict"
            checked={chosen.counts ?? true}
            onChange={(on) => set("counts")(on)}
          />
        </div>
        {part.cases.length > 1 && (
          <button type="button" className="key-button self-end" onClick={remove}>
            Remove load case
          </button>
        )}
        <div className="col-span-full border-t border-rule pt-3 text-body leading-snug">
          {estimate?.says && <p>{estimate.says[0]!.toUpperCase() + estimate.says.slice(1)}.</p>}
          {estimate?.control && <Control {...props} />}
          {estimate?.cords.map((c) => (
            <button
              key={c.line_id + c.face}
              type="button"
              className="mt-2 block w-full text-left underline decoration-dotted underline-offset-3 hover:bg-pick-wash"
              onClick={() => openWorking("cords")}
            >
              Cord in the {c.face} edge: carries {plain(100 * c.moment_share)} % of the fore-and-aft bending
              moment, {inKind(c.pull_N, "force")} tension; it needs {show(c.bond_mm, "length")} of bond hand
              over.
            </button>
          ))}
          {estimate?.shakes && <Speeds shakes={estimate.shakes} openWorking={openWorking} />}
          {estimate?.warnings.map((w) => (
            <p key={w} className="mt-2 border-l-[3px] border-fail pl-3">
              {w}
            </p>
          ))}
        </div>
      </div>
    </div>
  );
}

/** The kept load cases, each with what it says. */
function Cases({ part, estimate, chosen, pick }: Pick<Props, "part" | "estimate" | "chosen" | "pick">) {
  return (
    <ol aria-label="Load cases" className="border-t border-ink">
      {part.cases.map((c) => {
        const verdict = estimate?.verdicts.find((v) => v.case_id === c.id);
        const governs = estimate?.governs === c.id && part.cases.length > 1;
        return (
          <li key={c.id} className="border-b border-rule">
            <button
              type="button"
              aria-pressed={c.id === chosen.id}
              onClick={() => pick(c.id)}
              className="grid min-h-11 w-full grid-cols-[minmax(0,1fr)_auto] gap-x-3 px-2 py-1.5 text-left leading-tight aria-pressed:bg-pick-wash"
            >
              <span className="font-semibold">{c.name}</span>
              <span className="figure-type">
                {verdict ? (verdict.limited ? `margin ${plain(verdict.margin.typ, 2)}` : "not limited") : ""}
              </span>
              <span className="text-small text-soft">
                {governs ? "worst load case" : c.counts === false ? "shown only, does not count" : ""}
              </span>
              <span
                className={`text-right text-small ${verdict?.enough === "no" ? "text-fail" : "text-soft"}`}
              >
                {verdict ? graded(verdict.enough) : ""}
              </span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}

/** Adds a case of a kind; its figures come from the airframe's mass and speed. */
function AddCase({ part, document, change, pick }: Props) {
  const kinds = useCaseKinds();
  const [trouble, setTrouble] = useState("");
  const add = async (kind: string) => {
    const { data, error } = await api.POST("/api/studies/case", {
      body: { document, part_id: part.id, kind },
    });
    if (!data) {
      setTrouble(problemsOf(error)[0]!.message);
      return;
    }
    setTrouble("");
    const made = data.case;
    change((p) => ({ ...p, cases: [...p.cases, made] as Part["cases"] }));
    pick(made.id);
  };
  const offered = (kinds.data ?? []).filter((k) => k.suits.includes(part.kind));
  if (part.cases.length >= 12) return <p className="text-small text-soft">Limit reached: 12 load cases.</p>;
  return (
    <Choice<string>
      label="Add load case"
      value=""
      options={[
        { value: "", label: "Choose a load case…" },
        ...offered.map((k) => ({ value: k.type, label: k.name })),
      ]}
      problem={trouble ? { path: "", message: trouble } : undefined}
      onChange={(kind) => kind && void add(kind)}
    />
  );
}
