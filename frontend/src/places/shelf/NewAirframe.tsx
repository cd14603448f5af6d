import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { accepted, readAnew } from "../../api/changes";
import { api, Refused, type Problem, type Schemas } from "../../api/client";
import { keys, useAirframeTypes } from "../../api/queries";
import { linesOf, posting } from "../../api/stream";
import { AirframeDrawing, extentOf } from "../../part/AirframeDrawing";
import { InHead } from "../../words/InHead";
import { NewFields, type Wish } from "./NewFields";
import { NewPart } from "./NewPart";

type Made = Schemas["NewAirframe"];
type Steps = { progress: Schemas["PartStep"]; answer: Made };

const START: Wish = {
  name: "",
  type: "trainer",
  span_mm: 1200,
  all_up_mass_g: 900,
  wing_loading_g_dm2: null,
  top_speed_m_s: 20,
  load_factor: null,
  at_hand: [],
  tools: ["iron", "hot_wire"],
};

/** A whole airframe at once: what it is to be, and its parts placed and sized, each with its reason. */
export function NewAirframe() {
  const types = useAirframeTypes();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [wish, setWish] = useState<Wish>(START);
  const [own, setOwn] = useState(false);
  const [doing, setDoing] = useState<Steps["progress"] | null>(null);
  const [made, setMade] = useState<Made | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const running = useRef<AbortController | null>(null);
  useEffect(() => () => running.current?.abort(), []);
  const set = <K extends keyof Wish>(key: K, value: Wish[K]) => {
    setWish((w) => ({ ...w, [key]: value }));
    setMade(null);
  };
  const at = (key: string) => problems.find((p) => p.path.split(".").at(-1) === key);
  const type = types.data?.find((t) => t.key === wish.type);
  const make = async () => {
    running.current?.abort();
    const control = new AbortController();
    running.current = control;
    setProblems([]);
    setMade(null);
    setDoing({ doing: "Working out sizes", done: 0, of: 1 });
    try {
      const asked = { ...wish, name: wish.name.trim() || `New ${type?.title.toLowerCase() ?? "airframe"}` };
      for await (const line of linesOf<Steps>("/api/studies/new-airframe", posting(asked, control.signal))) {
        if (line.progress) setDoing(line.progress);
        if (line.answer) setMade(line.answer);
      }
    } catch (error) {
      if (control.signal.aborted) return;
      if (!(error instanceof Refused)) throw error;
      setProblems(error.problems);
    }
    setDoing(null);
  };
  const keep = async (document: Made["airframe"]) => {
    try {
      const kept = await accepted(api.POST("/api/airframes", { body: { variants: [], ...document } }));
      await readAnew(queries, keys.shelf);
      if (kept) void navigate(`/airframe/${kept.id}`);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      setProblems(error.problems);
    }
  };
  const fields = [
    "name",
    "type",
    "span_mm",
    "all_up_mass_g",
    "wing_loading_g_dm2",
    "top_speed_m_s",
    "load_factor",
  ];
  if (!types.data) return null;
  const others = problems.filter((p) => !fields.includes(p.path.split(".").at(-1)!));
  return (
    <>
      <InHead>
        <span className="label-type text-soft">New airframe</span>
      </InHead>
      <main className="mx-auto grid w-full max-w-[80rem] gap-x-12 gap-y-6 px-6 grid-cols-[minmax(0,1fr)] pt-6 pb-16 max-sm:px-4 lg:grid-cols-[24rem_minmax(0,1fr)]">
        <form action={make} className="grid content-start gap-4" aria-label="What it is to be">
          <h1 className="border-b border-ink pb-2 text-figure font-bold">New airframe</h1>
          <NewFields {...{ wish, type, set, at }} types={types.data ?? []} />
          <div className="flex flex-wrap items-center gap-3">
            <button
              type="submit"
              className={made ? "key-button min-h-11" : "key-main"}
              disabled={doing !== null}
            >
              {made ? "Create again" : "Create all parts"}
            </button>
          </div>
          <p className="text-body leading-loose">
            One part only?{" "}
            <Link to="/choose" className="text-pick underline">
              Choose a construction
            </Link>{" "}
            or{" "}
            <button type="button" className="text-pick underline" onClick={() => setOwn(true)}>
              enter its sizes
            </button>
            .
          </p>
          {others.map((p) => (
            <p key={p.path + p.message} role="alert" className="text-fail">
              {p.message}
            </p>
          ))}
        </form>
        <section aria-label="Its parts" aria-busy={doing !== null}>
          {doing && <Doing doing={doing} />}
          {made && <Result made={made} onKeep={() => void keep(made.airframe)} />}
          {!made && !doing && (
            <p className="max-w-prose pt-2 leading-snug text-soft">
              Every part is placed, sized for its loads from stock sizes, and checked: pull-up, gust, landing,
              handling and launch. It takes some seconds. Nothing is stored until you put it on your Shelf,
              and everything can be changed on the Bench.
            </p>
          )}
        </section>
      </main>
      {own && <NewPart into={null} onClose={() => setOwn(false)} />}
    </>
  );
}

function Doing({ doing }: { doing: Steps["progress"] }) {
  return (
    <div role="status" className="pt-2">
      <p className="label-type">{doing.doing}…</p>
      <progress
        aria-label="Parts made"
        max={doing.of}
        value={doing.done + 0.3}
        className="mt-2 w-full max-w-md"
      />
    </div>
  );
}

function Result({ made, onKeep }: { made: Made; onKeep: () => void }) {
  const { y0, y1, x0, x1 } = extentOf(made.airframe);
  const scale = Math.min(520 / (y1 - y0 || 1), 300 / (x1 - x0 || 1));
  const shaky = made.reasons.filter((r) => !r.holds);
  return (
    <div>
      <div className="flex flex-wrap items-start justify-between gap-4 border-b border-ink pb-3">
        <div>
          <h2 className="text-title font-bold">{made.airframe.name}</h2>
          <p className="mt-1 max-w-prose leading-snug text-soft">{made.why}</p>
          <p className="mt-1 font-semibold">
            {shaky.length === 0
              ? "✓ All parts hold, at the low end of their ranges too."
              : `Not sure to hold: ${shaky.map((r) => r.part).join(", ")}.`}
          </p>
        </div>
        <button type="button" className="key-main" onClick={onKeep}>
          Add to my Shelf
        </button>
      </div>
      <div className="flex justify-center py-5">
        <AirframeDrawing document={made.airframe} scale={scale} />
      </div>
      <ul className="border-t border-ink">
        {made.reasons.map((r) => (
          <li
            key={r.part_id}
            className="grid gap-x-6 border-b border-rule py-3 sm:grid-cols-[9rem_minmax(0,1fr)]"
          >
            <p>
              <strong className="block">{r.part}</strong>
              <span className="text-small text-soft">{r.holds ? "✓ sure" : "≈ not sure"}</span>
            </p>
            <div className="leading-snug">
              <p className="font-semibold">{r.construction}</p>
              <p className="text-body text-soft">{r.why}</p>
              <p className="text-body">{r.says.join(". ")}.</p>
              {r.to_buy.length > 0 && <p className="text-body">To buy: {r.to_buy.join(", ")}.</p>}
            </div>
          </li>
        ))}
      </ul>
    </div>
  );
}
