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
import { Choice, NumberField, TextField } from "../../../forms/fields";
import { numberAt, type NumberKey, type Setter } from "../../../forms/form";
import { plain, show, type Quantity } from "../../../forms/units";
import { problemAt, withCase } from "../../../part/edits";
import { Control, inKind, Speeds } from "./LoadFindings";
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
  ["cl_max", "Most lift, C_L", "plain", 0.05],
  ["bank_deg", "Bank", "angle", 5],
  ["gust_m_s", "Gust", "speed", 1],
  ["pull_N", "Pull of the line", "force", 5],
  ["sink_m_s", "Speed downwards", "speed", 0.1],
  ["stop_mm", "Stopped over", "length", 5],
  ["stroke_mm", "Stroke of the arm", "length", 50],
  ["contact_mm", "Width of the pole", "length", 5],
  ["force_N", "Force of the hand", "force", 1],
  ["weight_g", "Weight", "mass", 50],
  ["couple_N_mm", "Couple", "couple", 20],
  ["first_support_mm", "First support", "length", 5],
  ["second_support_mm", "Second support", "length", 5],
  ["saddle_mm", "Half width of the saddle", "length", 5],
  ["end_mass_g", "Mass at its end", "mass", 10],
  ["width_mm", "Straps side by side", "length", 1],
  ["hard_strip_mm", "Hard strip in the edge", "length", 5],
  ["area_cm2", "Area of the tail, cm²", "plain", 10],
  ["cl", "Lift coefficient", "plain", 0.05],
  ["height_mm", "Force above the axis", "length", 5],
  ["torque_N_mm", "Torque", "couple", 10],
  ["free_mm", "Nose free to crush", "length", 5],
  ["mount_g", "Mounts stand, g", "plain", 10],
  ["deflection_deg", "Deflection", "angle", 1],
  ["chord_percent", "Its share of the chord", "percent", 1],
  ["balance_percent", "Ahead of its hinge", "percent", 5],
  ["hinges", "Hinges", "plain", 1],
];

const PULLS: Record<string, string> = { tow: "Pull of the line", strap: "Pull of the straps" };

const WAYS = [
  { value: "up", label: "Up" },
  { value: "down", label: "Down" },
] as const;
const SIDEWAYS = { value: "side", label: "Sideways" } as const;
const LIFTS = [
  { value: "schrenk", label: "Between chord and ellipse (Schrenk)" },
  { value: "elliptic", label: "Ellipse" },
] as const;

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
      <ol aria-label="Load cases kept" className="border-t border-ink">
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
                  {verdict
                    ? verdict.limited
                      ? `margin ${plain(verdict.margin.typ, 2)}`
                      : "not limited"
                    : ""}
                </span>
                <span className="text-small text-soft">{governs ? "worst load case" : ""}</span>
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
      <AddCase {...props} />
      <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3 border-t border-ink pt-3">
        <div className="col-span-full">
          <TextField
            label="Name of the case"
            value={chosen.name}
            problem={at("name")}
            onChange={set("name")}
          />
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
            label="Horn, from the root"
            value={chosen.horn_mm ?? part.span_mm / 2}
            quantity="length"
            step={10}
            problem={at("horn_mm")}
            hint={
              estimate?.control
                ? `most arrives at ${show(estimate.control.best_horn_mm, "length")}`
                : undefined
            }
            onChange={set("horn_mm")}
          />
        )}
        {"at_mm" in chosen && (
          <NumberField
            label="Where, from the root"
            value={chosen.at_mm ?? estimate?.acts_at_mm ?? part.span_mm}
            quantity="length"
            step={10}
            problem={at("at_mm")}
            hint={chosen.at_mm == null ? "near the tip unless said" : undefined}
            onChange={set("at_mm")}
          />
        )}
        {"way" in chosen && (
          <div className="col-span-full">
            <Choice
              label="Which way"
              value={chosen.way}
              options={chosen.type === "tail_load" ? [...WAYS, SIDEWAYS] : WAYS}
              onChange={set("way")}
            />
          </div>
        )}
        {"lift" in chosen && (
          <div className="col-span-full">
            <Choice label="Lift along the span" value={chosen.lift} options={LIFTS} onChange={set("lift")} />
          </div>
        )}
        {chosen.type === "deflected" && (
          <RunFields run={chosen.run} set={set("run")} {...{ catalogue, at }} />
        )}
        <NumberField
          label="Factor asked for"
          value={chosen.safety_factor}
          quantity="plain"
          step={0.1}
          problem={at("safety_factor")}
          onChange={set("safety_factor")}
        />
        {part.cases.length > 1 && (
          <button type="button" className="key-button self-end" onClick={remove}>
            Take this case out
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
              Cord in the {c.face} edge: {plain(100 * c.moment_share)} % of the edgewise moment,{" "}
              {inKind(c.pull_N, "force")} of pull, which {show(c.bond_mm, "length")} of bond hand over.
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
  if (part.cases.length >= 12) return <p className="text-small text-soft">Twelve cases are the most.</p>;
  return (
    <Choice<string>
      label="Keep another case"
      value=""
      options={[
        { value: "", label: "Choose what happens to the part…" },
        ...offered.map((k) => ({ value: k.type, label: k.name })),
      ]}
      problem={trouble ? { path: "", message: trouble } : undefined}
      onChange={(kind) => kind && void add(kind)}
    />
  );
}
