import { useState } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Catalogue, type Part, type Problem, type Schemas } from "../api/client";
import { graded } from "../words/grades";
import { CautionLines } from "../words/Cautions";
import { Choice, OptionalNumber } from "../forms/fields";
import { tagOf } from "../words/tags";
import { useSettled } from "../forms/useSettled";
import { Word } from "../words/Word";
import { plain, show } from "../forms/units";
import { Marks } from "./Marks";
import { useLeft } from "./useLeft";
import type { Subject } from "./useStudy";
import { ofWords, Table } from "../words/Table";
import { Scrolling } from "../words/Scrolling";

type Crash = Schemas["Crash"];

export const WHAT = [
  { value: "nose_in", label: "Nose-in" },
  { value: "tip_strike", label: "Tip strike" },
  { value: "pole", label: "Pole or post" },
  { value: "flat", label: "Flat on the ground" },
  { value: "mid_air", label: "Mid-air collision" },
  { value: "transport", label: "Transport or parking" },
  { value: "heat", label: "Heat" },
] as const;

interface Props {
  subject: Subject;
  part: Part;
  catalogue: Catalogue;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
}

/** After a crash: where to look, what broke, and what is left of the part. */
export function DamageView({ subject, part, catalogue, problems, path, change }: Props) {
  const marked = (part.damage ?? []).length > 0;
  const { left, asked, failed } = useLeft(subject, part);
  return (
    <section className="px-5 py-3" aria-label="After a crash">
      {!marked && <Inspect subject={subject} part={part} />}
      <h2 className={`border-b border-ink text-lead font-semibold ${marked ? "" : "mt-6"}`}>
        <Word k="damage">What is damaged?</Word>
      </h2>
      <Marks {...{ subject, part, catalogue, problems, path, change }} asked={asked} />
      {marked && (
        <>
          <h2 className="mt-6 border-b border-ink text-lead font-semibold">How much strength is left?</h2>
          {failed && <p className="py-2 text-fail">Not computed. Correct the fields marked above.</p>}
          {!left && !failed && <p className="py-2 text-soft">Reckoning what is left…</p>}
          {left && <LeftTable left={left} />}
          <div className="mt-6">
            <Inspect subject={subject} part={part} />
          </div>
        </>
      )}
    </section>
  );
}

/** What happened, and so where to look first. */
function Inspect({ subject, part }: { subject: Subject; part: Part }) {
  const [crash, setCrash] = useState<Crash>({ what: "nose_in", speed_m_s: null, at_mm: null });
  const document = useSettled(subject.document, 800);
  const study = useQuery({
    queryKey: ["inspect", tagOf(document), part.id, subject.case_id, crash],
    queryFn: async ({ signal }) => {
      const body = { ...subject, document, crash };
      const { data } = await api.POST("/api/crash/inspect", { body, signal });
      return data ?? null;
    },
    retry: false,
    placeholderData: keepPreviousData,
  });
  const set =
    <K extends keyof Crash>(key: K) =>
    (value: Crash[K]) =>
      setCrash({ ...crash, [key]: value });
  const found = study.data;
  return (
    <>
      <h2 className="border-b border-ink text-lead font-semibold">Where to look first</h2>
      <div className="grid grid-cols-[16rem_minmax(0,1fr)] gap-x-6 py-2 max-md:grid-cols-1">
        <div className="grid content-start gap-2">
          <Choice label="What happened" value={crash.what} options={WHAT} onChange={set("what")} />
          <OptionalNumber
            label="Speed (if known)"
            value={crash.speed_m_s ?? null}
            quantity="speed"
            onChange={set("speed_m_s")}
          />
          <OptionalNumber
            label="Impact position from root"
            value={crash.at_mm ?? null}
            quantity="length"
            onChange={set("at_mm")}
          />
        </div>
        <div className={study.isFetching ? "stale" : ""} aria-live="polite">
          {found && found.looks.length > 0 && (
            <ol aria-label="Places to inspect" className="text-body">
              {found.looks.map((l) => (
                <li key={l.says} className="border-b border-rule py-1.5 leading-snug">
                  <span className="flex justify-between gap-4">
                    <strong>{l.says}</strong>
                    <span className="whitespace-nowrap">
                      asked <span className="figure-type">{plain(100 * l.asked.typ, 2)} %</span>{" "}
                      <span className="text-soft">
                        {plain(100 * l.asked.low, 2)} – {plain(100 * l.asked.high, 2)} of its strength
                      </span>
                    </span>
                  </span>
                  <span className="text-soft">{l.how}</span>
                </li>
              ))}
            </ol>
          )}
          {found && (
            <ul className="mt-2 list-disc pl-5 text-body leading-snug" aria-label="Also check">
              {found.checks.map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
          )}
        </div>
      </div>
      {found && <CautionLines cautions={found.cautions} />}
    </>
  );
}

const FLY = { sure: "✓", likely: "≈", reduced: "?", no: "✕" } as const;

function LeftTable({ left }: { left: Schemas["Left"] }) {
  const percent = (b: Schemas["Band"]) => `${plain(b.typ, 3)} % (${plain(b.low, 2)} – ${plain(b.high, 2)})`;
  return (
    <div>
      <p aria-live="polite" className={`pt-2 text-lead leading-snug ${left.fly === "no" ? "text-fail" : ""}`}>
        <strong>{FLY[left.fly]}</strong> {left.says}
      </p>
      {left.grounds.length > 1 && (
        <ul className="list-disc pl-5 text-body leading-snug text-fail" aria-label="Why it is not flown">
          {left.grounds.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
      <dl className="mt-1 flex flex-wrap gap-x-8 text-body">
        <div className="flex gap-2">
          <dt className="text-soft">bending stiffness left</dt>
          <dd className="figure-type">{percent(left.bend_percent)}</dd>
        </div>
        {left.twist_percent && (
          <div className="flex gap-2">
            <dt className="text-soft">twist stiffness left</dt>
            <dd className="figure-type">{percent(left.twist_percent)}</dd>
          </div>
        )}
        <div className="flex gap-2">
          <dt className="text-soft">mass lost</dt>
          <dd className="figure-type">{show(left.lost_g.typ, "mass", 2)}</dd>
        </div>
      </dl>
      <Scrolling label="Load cases">
        <Table
          caption="Breaks at so many times the load, in each load case"
          heads={["Load case", "undamaged", "damaged", "needs", ofWords("fails first")]}
          className="mt-2"
        >
          {left.cases.map((c) => (
            <tr key={c.case_id} className="border-b border-rule align-top">
              <th scope="row" className="py-1.5 text-left font-normal">
                {c.name}
              </th>
              <td className="pl-3 py-1.5 text-right whitespace-nowrap">{plain(c.whole.typ, 3)} ×</td>
              <td
                className={`pl-3 py-1.5 text-right whitespace-nowrap ${c.enough === "no" ? "text-fail" : ""}`}
              >
                <span className="figure-type">{plain(c.left.typ, 3)} ×</span>
                <span className="block text-note text-soft">
                  {plain(c.left.low, 2)} – {plain(c.left.high, 2)}
                </span>
              </td>
              <td className="pl-3 py-1.5 text-right whitespace-nowrap">
                {plain(c.asked)} <span className="text-small">{graded(c.enough)}</span>
              </td>
              <td className="py-1.5 pl-3 leading-snug">{c.says}</td>
            </tr>
          ))}
        </Table>
      </Scrolling>
      {left.measured.length > 0 && (
        <ul className="mt-2 text-body leading-snug">
          {left.measured.map((text) => (
            <li key={text} className="border-l-[3px] border-rule pl-2">
              {text}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
