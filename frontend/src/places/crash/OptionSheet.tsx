import { useState } from "react";
import type { Schemas } from "../../api/client";
import { graded } from "../../words/grades";
import { TextField } from "../../forms/fields";
import { bare, plain, show, unitOf } from "../../forms/units";
import { Operations } from "./Operations";
import { minutesText } from "../../forms/times";
import { Table } from "../../words/Table";

type Option = Schemas["MendOption"];

interface Props {
  title: string;
  option: Option;
  flyIn: number;
  kept: boolean;
  keep: (name: string) => Promise<string | null>;
  adopt: () => Promise<string | null>;
}

/** One repair in full: what is done, what it holds, what is weak, what it takes, and the work in order. */
export function OptionSheet({ title, option: o, flyIn, kept, keep, adopt }: Props) {
  const [trouble, setTrouble] = useState("");
  const [name, setName] = useState("");
  const [busy, setBusy] = useState(false);
  return (
    <section aria-label="Repair details" className="mt-5">
      <div className="flex flex-wrap items-end justify-between gap-3 border-b border-ink pb-1">
        <h2 className="text-lead font-semibold">{title}</h2>
        <span className="flex items-end gap-2">
          {!kept && (
            <>
              <span className="w-44">
                <TextField label="Name" value={name} longest={80} onChange={setName} />
              </span>
              <button
                type="button"
                className="key-button"
                disabled={name.trim() === ""}
                onClick={() =>
                  void keep(name.trim()).then((t) => {
                    setTrouble(t ?? "");
                    if (t === null) setName("");
                  })
                }
              >
                Keep to compare
              </button>
            </>
          )}
          <button
            type="button"
            className="key-button border-pick bg-pick font-semibold text-sheet"
            disabled={busy}
            onClick={() => {
              setBusy(true);
              void adopt().then((t) => {
                setTrouble(t ?? "");
                setBusy(false);
              });
            }}
          >
            Choose this repair
          </button>
        </span>
      </div>
      {trouble && (
        <p role="alert" className="pt-1 text-fail">
          {trouble}
        </p>
      )}
      <div className="grid gap-x-10 gap-y-3 pt-2 lg:grid-cols-2">
        <div>
          <ul className="text-body" aria-label="What you do">
            {o.fixes.map((f) => (
              <li key={f.mark_id} className="border-b border-rule py-1 leading-snug">
                {f.says}
              </li>
            ))}
          </ul>
          <CasesTable cases={o.cases} flyIn={flyIn} />
        </div>
        <Facts option={o} />
      </div>
      <details className="mt-2 border-b border-rule">
        <summary className="min-h-10 cursor-pointer py-2 font-semibold">
          Steps ({o.operations.length})
        </summary>
        <Operations operations={o.operations.map((operation, n) => ({ number: n + 1, operation }))} />
      </details>
    </section>
  );
}

/** What it holds in every case, times the load: whole, mended, at the launch. */
function CasesTable({ cases, flyIn }: { cases: Option["cases"]; flyIn: number }) {
  return (
    <Table
      caption="Breaking load in each load case, × that load"
      heads={["Load case", "undamaged", "repaired", <>after {minutesText(flyIn)}</>, "needs"]}
      className="mt-3"
    >
      {cases.map((c) => (
        <tr key={c.case_id} className="border-b border-rule align-top">
          <th scope="row" className="py-1 text-left font-normal">
            {c.name}
          </th>
          <td className="figure-type py-1 pl-3 text-right">{plain(c.whole.typ, 3)}</td>
          <td className="py-1 pl-3 text-right whitespace-nowrap">
            <span className="figure-type">{plain(c.then.typ, 3)} ×</span>
            <span className="block text-note text-soft">
              {plain(c.then.low, 2)} – {plain(c.then.high, 2)}
            </span>
          </td>
          <td className="py-1 pl-3 text-right whitespace-nowrap">
            {c.launch.typ > 0 ? (
              <>
                <span className="figure-type">{plain(c.launch.typ, 3)} ×</span>
                <span className="block text-note text-soft">
                  {plain(c.launch.low, 2)} – {plain(c.launch.high, 2)}
                </span>
              </>
            ) : (
              <span className="text-fail">✕ not finished yet</span>
            )}
          </td>
          <td className="py-1 pl-3 text-right whitespace-nowrap">
            {plain(c.asked)} <span className="text-small">{graded(c.enough)}</span>
          </td>
        </tr>
      ))}
    </Table>
  );
}

/** What is weak, what it weighs and takes, and whether it is worth it. */
function Facts({ option: o }: { option: Option }) {
  const lacking = o.needs.filter((n) => n.at_hand === false);
  return (
    <div className="grid content-start gap-1 text-body leading-snug">
      <p>
        <strong>{o.weak_says}</strong>
      </p>
      {o.steps_at.map((text) => (
        <p key={text} className="border-l-[3px] border-rule pl-2">
          {text}
        </p>
      ))}
      {o.grounded && (
        <p className="border-l-[3px] border-fail pl-2">
          <strong>Do not fly after it:</strong> {o.grounded}.
        </p>
      )}
      {o.left.map((text) => (
        <p key={text} className="border-l-[3px] border-fail pl-2">
          Left as it is: {text}
        </p>
      ))}
      <p>
        {Math.max(Math.abs(o.more_g.low), Math.abs(o.more_g.high)) < NOTICED_G ? (
          "Adds no mass."
        ) : (
          <Added {...{ o }} />
        )}
      </p>
      <p>
        In twist{" "}
        {o.twist_percent ? (
          <>
            <span className="figure-type">{plain(o.twist_percent.typ, 3)} %</span> of the other half
          </>
        ) : (
          "not loaded"
        )}
        ; hands-on time{" "}
        <span className="figure-type">
          {minutesText(o.minutes.low)} – {minutesText(o.minutes.high)}
        </span>
        , ready to fly after{" "}
        <span className="figure-type">
          {minutesText(o.fly_min.low)} – {minutesText(o.fly_min.high)}
        </span>
        {o.loaded_min > 1.2 * o.fly_min.typ && `; loaded in full after ${minutesText(o.loaded_min)}`}.
      </p>
      <p>
        Needs: {o.needs.map((n) => n.name).join("; ") || "nothing"}.
        {lacking.length > 0 && (
          <span className="text-fail">
            {" "}
            ✕ Not in your field box: {lacking.map((n) => n.name).join("; ")}.
          </span>
        )}
      </p>
      <p>
        <strong>Worth repairing?</strong> {o.worth}
        {o.break_even !== null && ` Both cost the same if an hour is worth ${plain(o.break_even, 2)}.`}
      </p>
    </div>
  );
}

/** What no builder's scale shows. */
const NOTICED_G = 0.05;
const NOTICED_MM = 0.05;

/** What the repair weighs, and what it does to the balance across and along. */
function Added({ o }: { o: Option }) {
  const { more_g, rolls_g, balance_mm } = o;
  return (
    <>
      Adds{" "}
      <span className="figure-type">
        {bare(more_g.typ, "mass", 2)} {unitOf("mass")}
      </span>{" "}
      <span className="text-soft">
        ({bare(more_g.low, "mass", 2)} – {bare(more_g.high, "mass", 2)})
      </span>
      {Math.abs(rolls_g.typ) >= NOTICED_G &&
        `: put ${show(Math.abs(rolls_g.typ), "mass", 2)} into the ${rolls_g.typ > 0 ? "other" : "mended"} tip`}
      {Math.abs(balance_mm) >= NOTICED_MM &&
        `; the CG moves ${show(Math.abs(balance_mm), "length", 2)} ${balance_mm > 0 ? "aft" : "forward"}`}
      .
    </>
  );
}
