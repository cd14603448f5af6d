import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, problemsOf, type Problem, type Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { CautionLines } from "../../words/Cautions";
import { Choice, NumberField, Tick } from "../../forms/fields";
import { useSettled } from "../../forms/useSettled";
import { plain, show, type Quantity } from "../../forms/units";
import { Table } from "../../words/Table";
import { Scrolling } from "../../words/Scrolling";
import { holdShapes } from "../../part/sketches/holdShapes";
import { ScaledSketch } from "../../part/sketches/ScaledSketch";

type Need = Schemas["HoldNeed"];
type Found = Schemas["HoldChoice"];

const FIRST: Need = {
  what: "battery",
  foam: "epp_30",
  mass_g: 180,
  long_mm: 75,
  wide_mm: 35,
  high_mm: 26,
  pieces: 2,
  pad_percent: 30,
  hangs: false,
  stop: true,
  pull_up_g: 8,
  speed_m_s: 12,
  stop_mm: 120,
  uses: 100,
  months: 6,
};

const ENOUGH = { sure: "✓ sure", typical: "≈ likely", no: "✕ no" } as const;

/** What holds a battery, hatch or payload in, and the knock that each way survives. */
export function Holders() {
  const catalogue = useCatalogue();
  const [need, setNeed] = useState<Need>(FIRST);
  const [last, setLast] = useState<Schemas["HeldIn"] | null>(null);
  const settled = useSettled(need, 30);
  const answer = useQuery({
    queryKey: ["hold", settled],
    queryFn: async ({ signal }) => {
      const { data, error } = await api.POST("/api/joints/hold", { body: settled, signal });
      return { data: data ?? null, problems: data ? [] : problemsOf(error) };
    },
    retry: false,
    placeholderData: keepPreviousData,
  });
  const problems: Problem[] = answer.data?.problems ?? [];
  const found = answer.data?.data ?? null;
  // only the answer to the need as it stands: a late one to an earlier need must not take its place
  if (!answer.isPlaceholderData && found && found !== last) setLast(found);
  const shown = found ?? last;
  /** The way that is drawn: the one that was picked, the best until then. */
  const [picked, setPicked] = useState<string | null>(null);
  const drawn = shown?.choices.find((c) => c.key === picked) ?? shown?.choices[0];
  const set =
    <K extends keyof Need>(key: K) =>
    (value: Need[K]) =>
      setNeed((n) => ({ ...n, [key]: value }));
  const at = (key: string) => problems.find((p) => p.path === key);
  const number = (key: keyof Need, label: string, quantity: Quantity, step: number, hint?: string) => (
    <NumberField
      label={label}
      value={need[key] as number}
      quantity={quantity}
      step={step}
      whole={key === "pieces"}
      problem={at(key)}
      hint={hint}
      onChange={set(key)}
    />
  );
  return (
    <main className="mx-auto grid max-w-[88rem] gap-x-10 gap-y-6 grid-cols-[minmax(0,1fr)] px-6 pt-5 pb-12 max-sm:px-4 lg:grid-cols-[21rem_minmax(0,1fr)]">
      <section data-asked aria-label="What needs holding" className="grid content-start gap-3">
        <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
          <Choice
            label="Item"
            value={need.what}
            options={[
              { value: "battery", label: "Battery" },
              { value: "hatch", label: "Hatch" },
              { value: "payload", label: "Payload" },
            ]}
            onChange={set("what")}
          />
          {number("mass_g", "Mass", "mass", 10)}
          {number("long_mm", "Length", "length", 5)}
          {number("wide_mm", "Width", "length", 5)}
          {number("high_mm", "Height", "length", 2)}
          <Choice
            label="Tray material"
            value={need.foam}
            options={(catalogue.data?.foams ?? []).map((f) => ({ value: f.key, label: f.name }))}
            problem={at("foam")}
            onChange={set("foam")}
          />
          {number("pieces", "Number of pieces", "plain", 1)}
          {number("pad_percent", "Pads, % of base", "percent", 5)}
        </div>
        <div>
          <Tick label="Foam stop in front" checked={need.stop} onChange={set("stop")} />
          <Tick label="Mounted upside down" checked={need.hangs} onChange={set("hangs")} />
        </div>
        <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
          {number("pull_up_g", "Pull-up, × gravity", "plain", 1)}
          {number("speed_m_s", "Impact speed", "speed", 1)}
          {number("stop_mm", "Stopping distance", "length", 10)}
          {number("uses", "Times removed", "plain", 10)}
          {number("months", "Fastener age, months", "plain", 1)}
        </div>
      </section>
      <section aria-label="Hold-downs, best first" className={answer.isFetching ? "stale" : ""}>
        {shown && (
          <>
            <p className="text-lead font-semibold" role="status">
              {shown.says}
            </p>
            {problems.length > 0 && (
              <p className="text-fail" role="alert">
                Showing the last valid entry. {problems[0]!.message}
              </p>
            )}
            <p className="text-body text-soft">
              Needed: {plain(shown.along_asked_g, 2)} × gravity forward, {plain(shown.off_asked_g, 2)} ×
              gravity off its tray ({shown.off_says}).
            </p>
            {drawn && (
              <figure className="my-3 border-y border-rule py-2">
                <ScaledSketch drawn={holdShapes(need, shown, drawn)} />
                <figcaption className="text-small text-soft">
                  Drawn: {drawn.name}, nose to the left, with what it must hold against.
                </figcaption>
              </figure>
            )}
            <CautionLines cautions={shown.cautions} />
            <Scrolling label="Hold-downs">
              <Table
                caption="The knock in multiples of gravity that each way survives, worn as it is"
                heads={[
                  "Hold-down",
                  "forward, × gravity",
                  "off its tray, × gravity",
                  "Number needed",
                  "mass",
                ]}
                className="mt-3"
              >
                {shown.choices.map((c) => (
                  <Row
                    key={c.key}
                    choice={c}
                    along={shown.along_asked_g}
                    off={shown.off_asked_g}
                    drawn={c === drawn}
                    draw={() => setPicked(c.key)}
                  />
                ))}
              </Table>
            </Scrolling>
            <p className="mt-4 border-l-[3px] border-fail pl-3 text-small leading-snug">
              Estimates (data quality C). Shake it upside down over a cushion, pull it with a spring scale,
              and check it after every hard landing.
            </p>
          </>
        )}
      </section>
    </main>
  );
}

function Knock({ band, fresh, asked }: { band: Schemas["Band"]; fresh: number; asked: number }) {
  return (
    <td className="px-3 py-1.5 text-right whitespace-nowrap">
      <span className={`figure-type ${band.typ < asked ? "text-fail" : ""}`}>{plain(band.typ, 2)} ×</span>
      <span className="block text-note text-soft">
        {plain(band.low, 2)} – {plain(band.high, 2)}; new {plain(fresh, 2)}
      </span>
    </td>
  );
}

interface RowProps {
  choice: Found;
  along: number;
  off: number;
  drawn: boolean;
  draw: () => void;
}

function Row({ choice: c, along, off, drawn, draw }: RowProps) {
  const wanted =
    c.wanted == null
      ? "none"
      : c.pieces == null
        ? `${plain(c.wanted)} % of base`
        : c.wanted === 1
          ? "1 piece"
          : `${plain(c.wanted)} pieces`;
  return (
    <tr className="border-b border-rule align-top">
      <th scope="row" className="py-1.5 text-left leading-snug font-normal">
        <button
          type="button"
          aria-pressed={drawn}
          onClick={draw}
          className="min-h-10 text-left font-semibold underline decoration-rule underline-offset-4 aria-pressed:text-pick"
        >
          {c.name}
        </button>{" "}
        <span className="text-small">{ENOUGH[c.enough]}</span>
        <span className="block text-small text-soft">
          {c.enough === "no" ? `${c.gives}. ` : ""}
          {c.watch}. Data quality {c.grade}.
        </span>
      </th>
      <Knock band={c.along_g} fresh={c.new_along_g} asked={along} />
      <Knock band={c.off_g} fresh={c.new_off_g} asked={off} />
      <td className="px-3 py-1.5 text-right whitespace-nowrap">{wanted}</td>
      <td className="py-1.5 pl-3 text-right whitespace-nowrap">{show(c.grams, "mass", 2)}</td>
    </tr>
  );
}
