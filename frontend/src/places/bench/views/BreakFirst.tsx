import { useState } from "react";
import { api, type Band, type Schemas } from "../../../api/client";
import { NumberField, OptionalNumber } from "../../../forms/fields";
import { Word } from "../../../words/Word";
import { bare, show } from "../../../forms/units";
import { useStudy, type Subject } from "../../../part/useStudy";
import { ofWords, Table } from "../../../words/Table";

type Wish = Schemas["CorridorWish"];

const FITS = { sure: "✓ sure", typical: "≈ likely", no: "✕ no" } as const;
const force = (b: Band) => `${bare(b.low, "force", 2)} – ${bare(b.high, "force", 2)}`;

/** What holds the part in the worst wanted case and lets go before wing or mount break. */
export function BreakFirst({ subject }: { subject: Subject }) {
  const [wish, setWish] = useState<Wish>({ months: 6, stretch: 1, mount_N: null, hold_N: null });
  const [all, setAll] = useState(false);
  const set = (key: keyof Wish) => (v: number | null) => setWish({ ...wish, [key]: v });
  const study = useStudy(`corridor ${JSON.stringify(wish)}`, subject, (body, signal) =>
    api.POST("/api/studies/corridor", { body: { ...body, wish }, signal }),
  );
  const found = study.data;
  const fit = found?.ways.filter((w) => all || w.fits !== "no") ?? [];
  const shown = fit.length > 0 ? fit : (found?.ways.slice(0, 3) ?? []);
  return (
    <>
      <h2 className="mt-6 border-b border-ink text-lead font-semibold">
        <Word k="corridor">Which fastener breaks away in time?</Word>
      </h2>
      <div className="grid max-w-2xl grid-cols-4 items-start gap-x-4 gap-y-2 py-2 max-md:grid-cols-2">
        <NumberField
          label="Fastener age, months"
          value={wish.months}
          quantity="plain"
          onChange={set("months")}
        />
        <NumberField
          label="Rubber band stretch"
          value={wish.stretch}
          quantity="plain"
          step={0.1}
          hint="× usual stretch"
          onChange={set("stretch")}
        />
        <OptionalNumber
          label="Mount strength"
          value={wish.mount_N ?? null}
          quantity="force"
          onChange={set("mount_N")}
        />
        <OptionalNumber
          label="Must hold"
          value={wish.hold_N ?? null}
          quantity="force"
          hint="empty: lift in the worst load case"
          onChange={set("hold_N")}
        />
      </div>
      {study.isError && (
        <p className="text-fail">
          Not computed. Fastener age must be 0 to 120 months, rubber band stretch 0.3 to 2.5, loads no more
          than {show(20000, "force")}.
        </p>
      )}
      {!found && !study.isError && <p className="text-soft">Searching fasteners…</p>}
      {found && !study.isError && (
        <div className={study.isFetching ? "stale" : ""}>
          <p className="text-body leading-snug">
            Must hold <strong>{show(found.hold_N.typ, "force")}</strong>: {found.hold_says}. Must release by{" "}
            <strong>
              {found.release_N
                ? `${show(found.release_N.typ, "force")} (${force(found.release_N)})`
                : "no limit"}
            </strong>
            : {found.release_says}.
          </p>
          <p className="mt-1 font-semibold">{found.says}</p>
          <Table
            caption="Fasteners that could hold the part"
            heads={["Number", "Holds", "Releases at", "Energy absorbed", "Mass", ofWords("Suitable")]}
            className="mt-1"
          >
            {shown.map((w) => (
              <tr key={w.key} className="border-b border-rule align-top">
                <th scope="row" className="py-1 text-left font-semibold">
                  {w.count} × {w.name}
                </th>
                <td className="figure-type pl-3 py-1 text-right whitespace-nowrap">
                  {show(w.holds_N.typ, "force")}
                  <span className="block text-note font-normal text-soft">{force(w.holds_N)}</span>
                </td>
                <td className="figure-type pl-3 py-1 text-right whitespace-nowrap">
                  {show(w.lets_go_N.typ, "force")}
                  <span className="block text-note font-normal text-soft">{force(w.lets_go_N)}</span>
                </td>
                <td className="figure-type pl-3 py-1 text-right whitespace-nowrap">
                  {show(w.energy_mJ, "work", 2)}
                </td>
                <td className="figure-type pl-3 py-1 text-right whitespace-nowrap">
                  {show(w.grams, "mass", 2)}
                </td>
                <td className={`py-1 pl-3 leading-tight ${w.fits === "no" ? "text-fail" : ""}`}>
                  {FITS[w.fits]}
                  <span className="block text-note text-soft">{w.says}</span>
                </td>
              </tr>
            ))}
          </Table>
          {found.buffers.map((text) => (
            <p key={text} className="mt-1 border-l-[3px] border-rule pl-3 text-body leading-snug">
              {text}
            </p>
          ))}
          <p className="mt-1 border-l-[3px] border-fail pl-3 text-small leading-snug">
            Rubber bands and springs whip back when they release. Wear eye protection and keep everyone out of
            their line. Test on the bench over something soft before flying. An estimate is not a clearance to
            fly.
          </p>
          {!all && found.ways.length > shown.length && (
            <button
              type="button"
              className="min-h-10 underline decoration-dotted underline-offset-3"
              onClick={() => setAll(true)}
            >
              Show all {found.ways.length}, with reasons
            </button>
          )}
        </div>
      )}
    </>
  );
}
