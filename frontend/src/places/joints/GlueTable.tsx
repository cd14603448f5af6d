import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, problemsOf, type Schemas } from "../../api/client";
import { useCatalogue, useOwn } from "../../api/queries";
import { formOf } from "../../forms/form";
import { Choice, NumberField, TextField } from "../../forms/fields";
import { bare, unitOf } from "../../forms/units";
import { useSettled } from "../../forms/useSettled";
import { useKeptHere } from "../../forms/useKeptHere";
import { Scrolling } from "../../words/Scrolling";
import { Table, ofWords } from "../../words/Table";
import { minutesText } from "../../forms/times";
import { sidesOf } from "./sides";

type Wish = Schemas["TableWish"];
type Cell = Schemas["TableCell"];

const FIRST: Wish = {
  glues: ["contact_foamsafe_clear", "pu_foaming_white", "epoxy_5min", "hotmelt_low", "ca_foamsafe"],
  pairs: [
    { one: "epp_30", other: "epp_30" },
    { one: "epp_30", other: "composite" },
    { one: "foamboard_light_5", other: "foamboard_light_5" },
  ],
  minutes: [10, 60, 1440],
  loaded: "shear",
  width_mm: 20,
  workshop_C: 20,
  heat_C: 45,
};
/** Less than this on a square centimetre is not worth a figure. */
const NOTHING_N = 0.05;
const MOST_GLUES = 12;
const MOST_PAIRS = 8;
const LOADED = [
  { value: "shear", label: "Shear along the seam" },
  { value: "pull", label: "Pull across it" },
] as const;
const STATES: Record<Cell["state"], string> = {
  good: "",
  poor: "suits badly",
  try_first: "scrap first",
  no: "no",
};

/** What was kept, if it still looks like a wish. */
function wishIn(kept: unknown): Wish | null {
  const wish = kept as Partial<Wish> | null;
  return Array.isArray(wish?.glues) && Array.isArray(wish.pairs) ? { ...FIRST, ...wish } : null;
}

/** My glues on my pairs: what each holds after so many minutes, as one table to look up or to print. */
export function GlueTable() {
  const catalogue = useCatalogue().data;
  const [wish, setWish] = useKeptHere<Wish>("fletcher-glue-table", FIRST, wishIn);
  const settled = useSettled(wish, 200);
  const answer = useQuery({
    queryKey: ["glue-table", settled],
    queryFn: async ({ signal }) => {
      const { data, error } = await api.POST("/api/joints/glue-table", { body: settled, signal });
      return { data: data ?? null, problems: data ? [] : problemsOf(error) };
    },
    enabled: settled.glues.length > 0 && settled.pairs.length > 0,
    retry: false,
    placeholderData: keepPreviousData,
  });
  const problems = answer.data?.problems ?? [];
  const found = answer.data?.data ?? null;
  return (
    <main className="mx-auto grid max-w-[88rem] gap-x-10 gap-y-6 grid-cols-[minmax(0,1fr)] px-6 pt-5 pb-12 max-sm:px-4 lg:grid-cols-[21rem_minmax(0,1fr)]">
      <Wanted {...{ wish, setWish, problems, catalogue }} />
      <section aria-label="My glues on my pairs" className={answer.isFetching ? "stale" : ""}>
        {found && wish.glues.length > 0 && wish.pairs.length > 0 ? (
          <Found table={found} />
        ) : (
          <p className="max-w-prose">
            {problems[0]?.message ?? "Tick a glue that you have and say what meets what."}
          </p>
        )}
      </section>
    </main>
  );
}

interface WantedProps {
  wish: Wish;
  setWish: (wish: Wish) => void;
  problems: ReturnType<typeof problemsOf>;
  catalogue: ReturnType<typeof useCatalogue>["data"];
}

/** Which glues, pairs and minutes, and what is the same for all of them. */
function Wanted({ wish, setWish, problems, catalogue }: WantedProps) {
  const at = (path: string) => problems.find((p) => p.path.endsWith(path));
  const form = formOf(wish, (edit) => setWish(edit(wish)), at);
  const sides = sidesOf(catalogue);
  const own = (useOwn().data ?? []).filter((t) => t.item.kind === "glue").map((t) => t.item.key);
  const there = [...new Set(own)].filter((k) => !wish.glues.includes(k));
  const pair = (n: number, update: Partial<Wish["pairs"][number]> | null) =>
    form.set(
      "pairs",
      wish.pairs.flatMap((p, i) => (i !== n ? [p] : update === null ? [] : [{ ...p, ...update }])),
    );
  const tick = (key: string, on: boolean) =>
    form.set("glues", on ? [...wish.glues, key] : wish.glues.filter((k) => k !== key));
  return (
    <section aria-label="What the table tells" className="grid content-start gap-4 print:hidden">
      <fieldset>
        <legend className="label-type border-b border-ink">My glues</legend>
        {there.length > 0 && (
          <button
            type="button"
            className="key-button my-1"
            onClick={() => form.set("glues", [...wish.glues, ...there].slice(0, MOST_GLUES))}
          >
            What is in the Stockroom ({there.length})
          </button>
        )}
        <div className="max-h-72 overflow-y-auto">
          {(catalogue?.adhesives ?? []).map((a) => (
            <label key={a.key} className="flex min-h-10 items-center gap-2 leading-tight">
              <input
                type="checkbox"
                className="size-5 shrink-0 accent-(--pick)"
                checked={wish.glues.includes(a.key)}
                disabled={!wish.glues.includes(a.key) && wish.glues.length >= MOST_GLUES}
                onChange={(e) => tick(a.key, e.target.checked)}
              />
              {a.name}
            </label>
          ))}
        </div>
      </fieldset>
      <fieldset className="grid gap-3">
        <legend className="label-type w-full border-b border-ink">My pairs</legend>
        {wish.pairs.map((p, n) => (
          <div
            key={n}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-x-2 gap-y-1 border-b border-rule pb-3"
          >
            <div className="col-span-full">
              <Choice
                label={`${n + 1}: this`}
                value={p.one ?? ""}
                options={sides}
                problem={at(`pairs[${n}].one`)}
                onChange={(one) => pair(n, { one })}
              />
            </div>
            <Choice
              label="Glued to"
              value={p.other ?? ""}
              options={sides}
              problem={at(`pairs[${n}].other`)}
              onChange={(other) => pair(n, { other })}
            />
            <button
              type="button"
              className="key-button"
              aria-label={`Take pair ${n + 1} out`}
              onClick={() => pair(n, null)}
            >
              ✕
            </button>
          </div>
        ))}
        {wish.pairs.length < MOST_PAIRS && (
          <button
            type="button"
            className="key-button justify-self-start"
            onClick={() => form.set("pairs", [...wish.pairs, { one: "epp_30", other: "wood" }])}
          >
            Another pair
          </button>
        )}
      </fieldset>
      <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
        <div className="col-span-full">
          <Minutes minutes={wish.minutes} set={(minutes) => form.set("minutes", minutes)} />
        </div>
        <div className="col-span-full">
          <Choice label="Type of load" options={LOADED} {...form.field("loaded")} />
        </div>
        <NumberField label="Width of the joint" quantity="length" {...form.field("width_mm")} />
        <NumberField label="Workshop temperature" quantity="warmth" {...form.field("workshop_C")} />
        <NumberField
          label="Highest temperature in use"
          quantity="warmth"
          step={5}
          {...form.field("heat_C")}
        />
      </div>
    </section>
  );
}

/** Up to four times, written with commas between. */
function Minutes({ minutes, set }: { minutes: number[]; set: (minutes: number[]) => void }) {
  const [typed, setTyped] = useKeptHere<string>("fletcher-glue-table-minutes", minutes.join(", "), (kept) =>
    typeof kept === "string" ? kept : null,
  );
  const read = typed.split(/[,;\s]+/).flatMap((t) => (t === "" ? [] : [Number(t)]));
  const fit = read.length >= 1 && read.length <= 4 && read.every((m) => m >= 1 && m <= 20_160);
  return (
    <TextField
      label="After how many minutes"
      value={typed}
      hint="from taking up the tube; an hour is 60, a day 1440"
      problem={fit ? undefined : { path: "minutes", message: "Needs one to four numbers from 1 to 20160." }}
      onChange={(text) => {
        setTyped(text);
        const next = text.split(/[,;\s]+/).flatMap((t) => (t === "" ? [] : [Number(t)]));
        if (next.length >= 1 && next.length <= 4 && next.every((m) => m >= 1 && m <= 20_160)) set(next);
      }}
    />
  );
}

function Found({ table }: { table: Schemas["GlueTable"] }) {
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3">
        <h2 className="text-lead font-semibold">My glues on my pairs</h2>
        <button type="button" className="key-button print:hidden" onClick={() => window.print()}>
          Print the table
        </button>
      </div>
      <p className="mt-1 max-w-prose text-body text-soft">
        Typical strength of a square centimetre of glue line, in {unitOf("force")} with its range, at each
        time after you start applying the glue. Estimates: break a test joint of your own before you rely on
        one.
      </p>
      <Scrolling label="Glue table" className="mt-2">
        <Table
          caption="What each glue holds on each pair"
          heads={["Glue", ...table.pairs.map((p) => ofWords(p))]}
        >
          {table.rows.map((row) => (
            <tr key={row.key} className="border-b border-rule align-top">
              <th scope="row" className="max-w-40 py-2 pr-2 text-left leading-tight font-semibold">
                {row.name}
              </th>
              {row.cells.map((cell, n) => (
                <td key={n} className="min-w-36 py-2 pl-3">
                  <InCell cell={cell} minutes={table.minutes} best={table.best[n] === row.key} />
                </td>
              ))}
            </tr>
          ))}
        </Table>
      </Scrolling>
    </>
  );
}

function InCell({ cell, minutes, best }: { cell: Cell; minutes: number[]; best: boolean }) {
  if (cell.state === "no")
    return (
      <p className="text-small leading-snug">
        <strong className="text-fail">No:</strong> {cell.says}
      </p>
    );
  return (
    <>
      {(best || STATES[cell.state]) && (
        <p className="label-type text-note">{best ? "holds most" : STATES[cell.state]}</p>
      )}
      <dl className="grid grid-cols-[auto_auto_1fr] gap-x-2 leading-snug">
        {cell.holds_N.map((band, t) => (
          <div key={minutes[t]} className="contents">
            <dt className="text-note text-soft">{minutesText(minutes[t]!)}</dt>
            <dd className="figure-type text-right">
              {band.typ < NOTHING_N ? "0" : bare(band.typ, "force", 2)}
            </dd>
            <dd className="text-note whitespace-nowrap text-soft">
              {band.typ < NOTHING_N
                ? "nothing yet"
                : `${bare(band.low, "force", 2)} – ${bare(band.high, "force", 2)}`}
            </dd>
          </div>
        ))}
      </dl>
      <p className="mt-0.5 text-note leading-snug text-soft">
        {cell.fixed_min === null ? "never holds itself" : `fixed after ${minutesText(cell.fixed_min)}`}
        {cell.loaded_min === null ? "" : `, full load after ${minutesText(cell.loaded_min)}`};{" "}
        {cell.technique}; {cell.fails}
      </p>
      {cell.state !== "good" && <p className="text-note leading-snug">{cell.says}</p>}
    </>
  );
}
