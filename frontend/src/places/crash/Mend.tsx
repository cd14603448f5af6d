import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Part, type Schemas } from "../../api/client";
import { troubleOf, useAdopt, useKeepCandidate, useRemoveCandidate } from "../../api/changes";
import { useCandidates } from "../../api/queries";
import type { Subject } from "../../part/useStudy";
import { tagOf } from "../../words/tags";
import { useSettled } from "../../forms/useSettled";
import { Besides } from "./Besides";
import { Compared, type Row } from "./Compared";
import { Asked } from "./Asked";
import { useFieldBox } from "./FieldBox";
import { OptionSheet } from "./OptionSheet";
import { useMending } from "./useMending";

type Option = Schemas["MendOption"];

interface Props {
  airframeId: string;
  subject: Subject;
  part: Part;
  /** The document as it stands is stored: returns its revision, or null while it cannot be. */
  stored: () => Promise<number | null>;
  show: (option: Option | null) => void;
  adopted: () => void;
}

/** Repairs for what is marked: a handful of the front, compared, one of them looked at, adopted. */
export function Mend({ airframeId, subject, part, stored, show, adopted }: Props) {
  const [asked, setAsked] = useState({ flyIn: 60, warmth: 20, rate: 10 });
  const [box, setBox] = useFieldBox();
  const document = useSettled(subject.document, 800);
  const { flyIn, warmth, rate } = useSettled(asked, 600);
  const wish = { fly_in_min: flyIn, warmth_C: warmth, hour_worth: rate, at_hand: box };
  const settled = { ...subject, document };
  const marked = (part.damage ?? []).length > 0;
  const found = useMending(settled, wish, marked);
  const kept = useKept(airframeId, part.id, settled, wish, !found.running);
  const adoption = useAdopt(airframeId);
  const [picked, setPicked] = useState<Option | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const titles = new Map(found.answer?.headings.map((h) => [h.kind, h.title]));
  const rows: Row[] = [
    ...(found.answer?.options ?? []).map((option, n) => ({
      key: `found-${n}`,
      label: option.kinds.map((k) => titles.get(k) ?? k).join(", "),
      option,
    })),
    ...kept.rows,
    ...(picked ? [{ key: "picked", label: "Other good trade-offs", option: picked }] : []),
  ];
  const row = rows.find((r) => r.key === chosen) ?? rows[0];
  const looked = row?.option ?? null;
  useEffect(() => show(looked), [looked, show]);
  if (!marked)
    return (
      <p className="px-5 py-4 text-soft">
        No damage marked. Mark the damage first; its repairs then appear here.
      </p>
    );
  const { answer } = found;
  const pick = async (recipe: Schemas["Recipe"]) => {
    const { data } = await api.POST("/api/crash/mend-option", { body: { ...settled, wish, recipe } });
    if (!data) return;
    setPicked(data);
    setChosen("picked");
  };
  return (
    <section className="px-5 py-3" aria-label="Repairs">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <Asked
          asked={asked}
          change={(part) => setAsked({ ...asked, ...part })}
          problems={found.problems}
          options={answer?.options ?? []}
          box={box}
          setBox={setBox}
        />
        <div className="ml-auto min-h-9 self-center" aria-live="polite">
          {found.running ? (
            <span className="flex items-center gap-3">
              <progress
                aria-label="Repair search progress"
                max={found.progress?.of ?? 10}
                value={found.progress?.done ?? 0}
                className="w-36"
              />
              <span className="text-small text-soft">{found.progress?.says ?? "Starting…"}</span>
              <button type="button" className="key-button" onClick={found.stop}>
                Stop
              </button>
            </span>
          ) : (
            answer && (
              <span className="text-small text-soft">
                <span className="figure-type">{answer.considered}</span> repairs tried
              </span>
            )
          )}
        </div>
      </div>
      {found.problems.map((p) => (
        <p key={p.path + p.message} role="alert" className="mt-2 text-fail">
          {p.path ? `${p.path} ` : ""}
          {p.message}
        </p>
      ))}
      {answer && (
        <p className={`mt-3 text-lead leading-snug ${found.running ? "stale" : ""}`} aria-live="polite">
          {answer.says}
        </p>
      )}
      {rows.length > 0 && (
        <div className={found.running ? "stale" : ""}>
          <Compared
            rows={rows}
            chosen={row?.key ?? ""}
            choose={setChosen}
            rate={asked.rate}
            answer={answer}
          />
        </div>
      )}
      {row && (
        <OptionSheet
          key={row.key}
          title={row.label}
          option={row.option}
          flyIn={flyIn}
          keep={(name) => kept.keep(name, row.option.recipe)}
          kept={row.key.startsWith("kept-")}
          adopt={async () => {
            const revision = await stored();
            if (revision === null)
              return "Correct the damage marks with errors above, then choose this repair.";
            const { recipe } = row.option;
            const trouble = await troubleOf(
              adoption.mutateAsync({ revision, part_id: part.id, recipe, wish }),
            );
            if (trouble === null) adopted();
            return trouble;
          }}
        />
      )}
      {answer && (
        <details className="mt-4 max-w-prose text-body">
          <summary className="label-type min-h-10 cursor-pointer pt-2">What the headings mean</summary>
          <dl>
            {answer.headings.map((h) => (
              <div key={h.kind} className="border-t border-rule py-1">
                <dt className="inline font-semibold">{h.title}: </dt>
                <dd className="inline">{h.rule}</dd>
              </div>
            ))}
          </dl>
        </details>
      )}
      {answer && <Besides answer={answer} pick={(r) => void pick(r)} />}
    </section>
  );
}

/** Candidates that were kept, each computed as the part stands now, after what is asked first. */
function useKept(
  airframeId: string,
  partId: string,
  subject: Subject,
  wish: Schemas["MendWish"],
  free: boolean,
): { rows: Row[]; keep: (name: string, recipe: Schemas["Recipe"]) => Promise<string | null> } {
  const list = useCandidates(airframeId);
  const add = useKeepCandidate(airframeId);
  const remove = useRemoveCandidate(airframeId);
  const mine = (list.data ?? []).filter((c) => c.part_id === partId);
  const computed = useQuery({
    queryKey: [
      "kept-options",
      tagOf(subject.document),
      partId,
      JSON.stringify(wish),
      mine.map((c) => c.id).join(),
    ],
    queryFn: () =>
      Promise.all(
        mine.map(async (c) => {
          const body = { ...subject, wish, recipe: c.recipe };
          return (await api.POST("/api/crash/mend-option", { body })).data ?? null;
        }),
      ),
    enabled: free && mine.length > 0,
    placeholderData: keepPreviousData,
  });
  const keep = (name: string, recipe: Schemas["Recipe"]) =>
    troubleOf(add.mutateAsync({ part_id: partId, name, recipe }));
  const rows = mine.flatMap((c, n) => {
    const option = computed.data?.[n];
    return option
      ? [{ key: `kept-${c.id}`, label: `“${c.name}”`, option, remove: () => remove.mutate(c.id) }]
      : [];
  });
  return { rows, keep };
}
