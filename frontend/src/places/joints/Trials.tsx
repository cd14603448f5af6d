import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, problemsOf, type Catalogue, type Problem, type Schemas } from "../../api/client";
import { useKeepTrial } from "../../api/changes";
import { CautionLines } from "../../words/Cautions";
import { Choice, NumberField, TextField, Tick } from "../../forms/fields";
import { formOf } from "../../forms/form";
import { useSettled } from "../../forms/useSettled";
import { plain } from "../../forms/units";
import { LETTERS, HOW, PREPARED } from "./couponWords";
import type { Side } from "./sides";
import { Table } from "../../words/Table";

type Wish = Schemas["TrialWish"];
type Trial = Schemas["TrialOut"];

const FIRST: Wish = {
  name: "Which glue is stronger?",
  one: "epp_30",
  other: "epp_30",
  broken: "snap",
  minutes: 1440,
  difference_percent: 50,
  control: true,
  seed: 1,
  note: "",
  arms: [
    { adhesive: "contact_foamsafe_clear", technique: null, prepared: "roughened" },
    { adhesive: "pu_foaming_white", technique: null, prepared: "roughened" },
  ],
};

/** Plan a fair comparison: what is compared, how many of each, in which order. */
export function TrialForm(props: { catalogue: Catalogue; sides: Side[]; added: () => void }) {
  const { catalogue, sides, added } = props;
  const [wish, setWish] = useState<Wish>(FIRST);
  const kept = useKeepTrial();
  const settled = useSettled(wish, 200);
  const found = useQuery({
    queryKey: ["trial-plan", settled],
    queryFn: async ({ signal }) => {
      const { data, error } = await api.POST("/api/joints/trial-plan", { body: settled, signal });
      return { data: data ?? null, problems: data ? [] : problemsOf(error) };
    },
    retry: false,
    placeholderData: keepPreviousData,
  });
  const problems: Problem[] = [...(found.data?.problems ?? []), ...(kept.error?.problems ?? [])];
  const plan = found.data?.data;
  const at = (key: string) => problems.find((p) => p.path.startsWith(key));
  const change = (edit: (now: Wish) => Wish) => {
    kept.reset();
    setWish(edit);
  };
  const form = formOf(wish, change, at);
  const arm = (n: number, update: Partial<Wish["arms"][number]>) =>
    form.set(
      "arms",
      wish.arms.map((a, i) => (i === n ? { ...a, ...update } : a)),
    );
  const keep = () => kept.mutate({ wish }, { onSuccess: added });
  return (
    <div className="grid gap-x-8 gap-y-3 md:grid-cols-2">
      <div className="grid grid-cols-2 content-start items-start gap-x-4 gap-y-3">
        <div className="col-span-full">
          <TextField label="Question" {...form.field("name")} />
        </div>
        <Choice label="Material" options={sides} {...form.field("one")} />
        <Choice label="Glued to" options={sides} {...form.field("other")} />
        <Choice label="How to break them" options={HOW} {...form.field("broken")} />
        <NumberField label="Minutes after closing" quantity="plain" step={30} {...form.field("minutes")} />
        {wish.arms.map((a, n) => (
          <fieldset
            key={n}
            className="col-span-full grid grid-cols-2 gap-x-4 border-l-[3px] border-rule pl-3"
          >
            <legend className="label-type text-small">Way {LETTERS[n]}</legend>
            <Choice
              label="Adhesive"
              value={a.adhesive}
              options={catalogue.adhesives.map((x) => ({ value: x.key, label: x.name }))}
              problem={at(`arms[${n}]`)}
              onChange={(v) => arm(n, { adhesive: v, technique: null })}
            />
            <Choice
              label="Face joint"
              value={a.prepared}
              options={PREPARED}
              onChange={(prepared) => arm(n, { prepared })}
            />
          </fieldset>
        ))}
        <div className="col-span-full flex gap-2">
          <button
            type="button"
            className="key-button"
            disabled={wish.arms.length >= 8}
            onClick={() =>
              form.set("arms", [
                ...wish.arms,
                { adhesive: "ca_foamsafe", technique: null, prepared: "roughened" },
              ])
            }
          >
            Add option
          </button>
          {wish.arms.length > 1 && (
            <button
              type="button"
              className="key-button"
              onClick={() => form.set("arms", wish.arms.slice(0, -1))}
            >
              Remove option
            </button>
          )}
        </div>
        <div className="col-span-full">
          <Tick
            label="Include an untreated control"
            checked={wish.control}
            onChange={(on) => form.set("control", on)}
          />
        </div>
        <NumberField
          label="Smallest difference that matters"
          quantity="percent"
          step={10}
          hint="in the share of joints that tear in the foam"
          {...form.field("difference_percent")}
        />
        <div className="grid content-end pt-5">
          <button
            type="button"
            className="key-button"
            onClick={() => form.set("seed", (wish.seed + 1) % 1000)}
          >
            Shuffle order
          </button>
        </div>
      </div>
      <div aria-live="polite">
        {problems.length > 0 && <p className="text-fail">{problems[0]!.message}</p>}
        {plan && <PlanSheet plan={plan} />}
        <button type="button" className="key-button mt-3" onClick={keep}>
          Save fair test
        </button>
      </div>
    </div>
  );
}

function PlanSheet({ plan }: { plan: Schemas["TrialPlan"] }) {
  return (
    <>
      <p className="font-semibold">
        {plan.order.length} test joints, {plan.each} of each: {plan.why}.
      </p>
      <ul className="mt-1 text-body">
        {plan.arms.map((name, n) => (
          <li key={name}>
            <span className="figure-type">{LETTERS[n]}</span> {name}
          </li>
        ))}
      </ul>
      <h3 className="label-type mt-2 text-small text-soft">Glue and break in this order</h3>
      <ol aria-label="Order" className="figure-type flex flex-wrap gap-x-2.5 gap-y-0.5 text-body">
        {plan.order.map((c) => (
          <li key={c.label}>{c.label}</li>
        ))}
      </ol>
      <h3 className="label-type mt-2 text-small text-soft">Keep the same</h3>
      <ul className="list-disc pl-5 text-body leading-snug">
        {plan.keep_equal.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
      <h3 className="label-type mt-2 text-small text-soft">Steps</h3>
      <ol className="list-decimal pl-5 text-body leading-snug">
        {plan.steps.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ol>
      <CautionLines cautions={plan.cautions} />
    </>
  );
}

/** A kept trial: how far it is, and what it says so far. */
export function TrialCard(props: { trial: Trial; chosen: boolean; choose: () => void; remove: () => void }) {
  const { trial, chosen, choose, remove } = props;
  const { plan, reading } = trial;
  return (
    <section
      aria-label={trial.wish.name}
      className={`border-b border-rule py-2 ${chosen ? "bg-pick-wash" : ""}`}
    >
      <h3 className="font-semibold">{trial.wish.name}</h3>
      <Table
        caption="Results so far, and how often the foam tears first"
        heads={["Option", "broken", "Foam tears first"]}
      >
        {plan.arms.map((name, n) => (
          <tr key={name} className="border-b border-rule">
            <th scope="row" className="py-0.5 text-left font-normal">
              <span className="figure-type">{LETTERS[n]}</span> {name}
            </th>
            <td className="figure-type pl-3 text-right whitespace-nowrap">
              {reading.broken[n]} of {plan.each}
            </td>
            <td className="text-right whitespace-nowrap">
              {reading.broken[n] ? (
                <>
                  <span className="figure-type">{plain(100 * reading.odds[n]!.typ, 2)} %</span>{" "}
                  <span className="text-soft">
                    {plain(100 * reading.odds[n]!.low, 2)} – {plain(100 * reading.odds[n]!.high, 2)}
                  </span>
                </>
              ) : (
                <span className="text-soft">none yet</span>
              )}
            </td>
          </tr>
        ))}
      </Table>
      <ul className="mt-1 text-body leading-snug">
        {reading.verdicts.map((v) => (
          <li key={v.better + v.worse} className="border-l-[3px] border-rule pl-2">
            {v.says}.
          </li>
        ))}
      </ul>
      <details>
        <summary className="label-type min-h-10 cursor-pointer py-2 text-body">
          The plan<span className="sr-only"> of {trial.wish.name}</span>
        </summary>
        <PlanSheet plan={plan} />
      </details>
      <div className="flex gap-2 py-1">
        <button type="button" className="key-button" aria-pressed={chosen} onClick={choose}>
          {chosen ? "Entering results" : "Enter results"}
        </button>
        <button type="button" className="key-button ml-auto text-fail" onClick={remove}>
          Delete<span className="sr-only"> the fair test {trial.wish.name} with its results</span>
        </button>
      </div>
    </section>
  );
}
