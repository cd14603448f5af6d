import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, problemsOf, type Part, type Schemas } from "../../api/client";
import { useSlipKinds } from "../../api/queries";
import type { Subject } from "../../part/useStudy";
import { freshId } from "../../forms/ids";
import { Choice, NumberField } from "../../forms/fields";
import { tagOf } from "../../words/tags";
import { useSettled } from "../../forms/useSettled";
import { plain } from "../../forms/units";
import { minutesText } from "../../forms/times";
import { Table } from "../../words/Table";

interface Props {
  subject: Subject;
  part: Part;
  change: (edit: (part: Part) => Part) => void;
}

/** A slip while building: what it costs, what mends it, what must not be done. */
export function Slips({ subject, part, change }: Props) {
  const kinds = useSlipKinds();
  const [wish, setWish] = useState({ slip: "nick", at_mm: Math.round(part.span_mm / 2), long_mm: 30 });
  const settled = useSettled(wish, 300);
  const document = useSettled(subject.document, 800);
  const found = useQuery({
    queryKey: ["slip", tagOf(document), part.id, settled],
    queryFn: async () => {
      const { data, error } = await api.POST("/api/crash/slip", {
        body: { ...subject, document, wish: settled },
      });
      return { answer: data ?? null, problems: data ? [] : problemsOf(error) };
    },
    retry: false,
    placeholderData: keepPreviousData,
  });
  const answer = found.data?.answer;
  const at = (key: string) => found.data?.problems.find((p) => p.path.endsWith(key));
  const mark = (a: Schemas["SlipAnswer"]) =>
    change((p) => {
      const id = freshId(
        "mark",
        (p.damage ?? []).map((m) => m.id),
      );
      return { ...p, damage: [...(p.damage ?? []), { ...a.mark, id }] };
    });
  return (
    <section className="px-5 py-3" aria-label="Build mistakes">
      <div className="grid max-w-3xl grid-cols-[minmax(0,1fr)_9rem_9rem] gap-x-4 max-sm:grid-cols-1">
        <Choice
          label="What went wrong"
          value={wish.slip}
          options={(kinds.data ?? []).map((k) => ({ value: k.key, label: k.title }))}
          problem={at("slip")}
          onChange={(slip) => setWish({ ...wish, slip })}
        />
        <NumberField
          label="Position from root"
          value={wish.at_mm}
          quantity="length"
          step={5}
          problem={at("at_mm") ?? at("start_mm") ?? at("end_mm")}
          onChange={(at_mm) => setWish({ ...wish, at_mm })}
        />
        <NumberField
          label="Length affected"
          value={wish.long_mm}
          quantity="length"
          step={5}
          problem={at("long_mm")}
          onChange={(long_mm) => setWish({ ...wish, long_mm })}
        />
      </div>
      {answer && (
        <div className={found.isFetching ? "stale" : ""} aria-live="polite">
          <p className="mt-3 max-w-prose">
            {answer.says} <strong>{answer.left.says}</strong>
          </p>
          <Table caption="Fixes" heads={["fix", "strength", "mass", "hands-on", "finish"]} className="mt-3">
            {answer.remedies.map((r) => (
              <tr key={r.says} className="border-b border-rule align-top">
                <th scope="row" className="py-1.5 text-left font-normal">
                  {r.says}
                </th>
                <td className="py-1.5 pl-3 text-right whitespace-nowrap">
                  <span className="figure-type">{plain(r.strength_percent.typ, 3)} %</span>{" "}
                  <span className="text-soft">
                    {plain(r.strength_percent.low, 2)} – {plain(r.strength_percent.high, 3)}
                  </span>
                </td>
                <td className="figure-type py-1.5 pl-3 text-right">{plain(r.more_g.typ, 2)}</td>
                <td className="figure-type py-1.5 pl-3 text-right whitespace-nowrap">
                  {minutesText(r.minutes.typ)}
                </td>
                <td className="figure-type py-1.5 pl-3 text-right">{r.looks} / 5</td>
              </tr>
            ))}
          </Table>
          <ul className="mt-3 max-w-prose text-body">
            {answer.never.map((text) => (
              <li key={text} className="text-fail">
                ✕ Do not: {text}
              </li>
            ))}
            <li>
              <span aria-hidden>☐ </span>Check: {answer.check}
            </li>
            <li className="text-soft">
              Joints on scraped faces with old glue reach {plain(answer.over_old_percent.typ, 2)} % (
              {plain(answer.over_old_percent.low, 2)} – {plain(answer.over_old_percent.high, 2)}) of those on
              clean ones (judgement, grade C).
            </li>
          </ul>
          <button type="button" className="key-button mt-3" onClick={() => mark(answer)}>
            Mark on part
          </button>
        </div>
      )}
    </section>
  );
}
