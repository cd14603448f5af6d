import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { keepForBench, keepPage, keptForBench } from "../../api/benchShelf";
import type { AirframeOut } from "../../api/client";
import { NumberField } from "../../forms/fields";
import { useTyped } from "../../forms/useTyped";
import { useKept, useStored } from "../../part/useKept";
import { InHead } from "../../words/InHead";
import { NotHere } from "../../words/NotHere";
import { clocksOf, nextSteps, stepsNow, titleOf, type StepNow } from "./bench";
import { Clocks } from "./Clocks";
import { RunStep } from "./RunStep";
import { clock, dayAndClock, USUAL, type Shop } from "./shop";
import { usePlan } from "./usePlan";
import { useWork, type Bench } from "./useWork";

/** A clock that jumped by more than this is asked about, ms. */
const JUMP_MS = 60_000;

/** At the bench: one step large, clocks of what sets, made for a tablet or a phone and for gloves. */
export function Run() {
  const { airframeId = "" } = useParams();
  const airframe = useStored(airframeId);
  const repair = useSearchParams()[0].get("repair");
  const queries = useQueryClient();
  const name = `airframe.${airframeId}`;
  const kept = useMemo(
    () => (airframe.isError ? keptForBench<AirframeOut>(name) : null),
    [airframe.isError, name],
  );
  const state = airframe.data ?? kept;
  useEffect(() => {
    if (!airframe.data) return;
    keepForBench(name, airframe.data);
    keepForBench("session", queries.getQueryData(["session"]));
    keepPage();
  }, [airframe.data, name, queries]);
  if (airframe.isError && !state) return <NotHere says="This airframe is not on your Shelf" />;
  if (!state) return null;
  return <Standing key={`${state.id} ${repair}`} state={state} repair={repair} />;
}

/** The time, every second, and whether the device's clock was set meanwhile. */
function useNow(): { now: number; jumped: boolean } {
  const [time, setTime] = useState(() => ({ now: Date.now(), jumped: false }));
  useEffect(() => {
    const first = Date.now() - performance.now();
    const timer = setInterval(() => {
      const now = Date.now();
      setTime({ now, jumped: Math.abs(now - performance.now() - first) > JUMP_MS });
    }, 1000);
    return () => clearInterval(timer);
  }, []);
  return time;
}

/** Keeps the screen on while somebody works. */
function useAwake(awake: boolean) {
  useEffect(() => {
    if (!awake || !("wakeLock" in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let left = false;
    navigator.wakeLock
      .request("screen")
      .then((got) => {
        if (left) void got.release();
        else lock = got;
      })
      .catch(() => {});
    return () => {
      left = true;
      void lock?.release();
    };
  }, [awake]);
}

function Standing({ state, repair }: { state: AirframeOut; repair: string | null }) {
  const { document } = useKept(state).draft;
  const [shop] = useTyped<Shop>("fletcher.shop", USUAL);
  const bench = useWork(state.id);
  const { made, fresh, problems } = usePlan(state.id, document, shop, bench.work, bench.ready, repair);
  const { now, jumped } = useNow();
  const steps = useMemo(() => (made ? stepsNow(made.plan, fresh) : []), [made, fresh]);
  const next = nextSteps(steps, now);
  const clocks = clocksOf(steps, now);
  const [chosen, choose] = useState<string | null>(null);
  const step = next.find((s) => s.o.key === chosen) ?? next[0];
  useAwake(step?.state === "running");
  const done = steps.filter((s) => s.state === "done").length;
  return (
    <>
      <InHead>
        <h1 className="font-label font-semibold">{document.name}: at the bench</h1>
      </InHead>
      <main className="mx-auto w-full max-w-[60rem] px-6 pb-16 max-sm:px-4">
        <p className="flex flex-wrap items-baseline justify-between gap-x-6 border-b border-ink py-2 text-body">
          <Link to={`/build/${state.id}${repair ? `?repair=${repair}` : ""}`} className="underline">
            Build sheet
          </Link>
          <span className="figure-type" role="status">
            {done} of {steps.length} steps done
            {made && `, first flight ${dayAndClock(made.plan.flies)}`}
          </span>
          {bench.unsent > 0 && (
            <span className="text-fail">
              {bench.unsent} kept here, not yet on the server{bench.trouble && `: ${bench.trouble}`}
            </span>
          )}
        </p>
        {jumped && (
          <p role="alert" className="py-2 text-fail">
            The clock of this device was set while the page was open: check the time, then reload.
          </p>
        )}
        {problems.map((p) => (
          <p key={p.path + p.message} role="alert" className="py-2 text-fail">
            {p.message}
          </p>
        ))}
        <Clocks clocks={clocks} now={now} />
        {clocks.length > 0 && <Warmth shop={shop.warmth_C ?? 20} work={bench.work} press={bench.press} />}
        {step && (
          <RunStep key={step.o.key} step={step} document={document} airframe={state.id} press={bench.press} />
        )}
        {made && !step && <Waiting steps={steps} />}
        <Others steps={next.filter((s) => s !== step)} choose={choose} />
        <Done steps={steps.filter((s) => s.state === "done")} press={bench.press} />
      </main>
    </>
  );
}

interface WarmthProps {
  shop: number;
  work: Bench["work"];
  press: Bench["press"];
}

/** How warm it is where things set: what has set so far counts, the rest goes on at this warmth. */
function Warmth({ shop, work, press }: WarmthProps) {
  const told = (work.presses ?? []).filter((p) => p.what === "warmth").at(-1)?.value ?? shop;
  const [warmth, setWarmth] = useState(told);
  return (
    <div className="flex flex-wrap items-end gap-3 border-b border-ink py-3">
      <NumberField label="Workshop temperature" value={warmth} quantity="warmth" onChange={setWarmth} />
      <button
        type="button"
        className="key-button min-h-16"
        disabled={warmth === told}
        onClick={() =>
          press({
            what: "warmth",
            key: "",
            gate: "",
            result: "",
            value: warmth,
            note: "",
            knows: [],
            made_of: "",
            box_C: null,
          })
        }
      >
        So warm from now on
      </button>
    </div>
  );
}

/** Nothing for hands: what comes next, and when. */
function Waiting({ steps }: { steps: StepNow[] }) {
  const open = steps.filter((s) => s.state === "open");
  if (open.length === 0) return <p className="py-8 text-title font-bold">All steps are done.</p>;
  const soonest = open.reduce((a, b) => (a.begins < b.begins ? a : b));
  return (
    <p className="py-8 text-title font-bold">
      Nothing to do until {dayAndClock(soonest.begins)}: {titleOf(soonest.o)}.
    </p>
  );
}

/** What may be done as well, instead of waiting. */
function Others({ steps, choose }: { steps: StepNow[]; choose: (key: string) => void }) {
  if (steps.length === 0) return null;
  return (
    <section aria-label="Could be done as well" className="mt-8">
      <h2 className="label-type border-b border-ink pb-1">Could be done as well</h2>
      <ul>
        {steps.map((s) => (
          <li key={s.o.key} className="border-b border-rule">
            <button
              type="button"
              className="min-h-16 w-full py-2 text-left leading-snug"
              onClick={() => choose(s.o.key)}
            >
              {titleOf(s.o)}
              <span className="text-soft"> · {Math.round(s.o.minutes.typ)} min</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What is done, the last first, each to be taken back. */
function Done({ steps, press }: { steps: StepNow[]; press: Bench["press"] }) {
  if (steps.length === 0) return null;
  const last = [...steps].sort((a, b) => b.ends.localeCompare(a.ends));
  return (
    <details className="mt-8">
      <summary className="label-type min-h-10 cursor-pointer border-b border-ink pb-1">
        Done ({steps.length})
      </summary>
      <ul>
        {last.map((s) => (
          <li key={s.o.key} className="flex items-center justify-between gap-4 border-b border-rule py-1">
            <span className="leading-snug">
              {titleOf(s.o)}
              <span className="text-soft">
                {" "}
                · {dayAndClock(s.ends)}, from {clock(s.begins)}
              </span>
              {s.notes.map((n) => (
                <span key={n} className="block text-small">
                  {n}
                </span>
              ))}
            </span>
            <button
              type="button"
              className="key-button min-h-16"
              aria-label={`Not done: ${titleOf(s.o)}`}
              onClick={() =>
                press({
                  what: "undone",
                  key: s.o.key,
                  gate: "",
                  result: "",
                  value: null,
                  note: "",
                  knows: [],
                  made_of: "",
                  box_C: null,
                })
              }
            >
              Not done
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
