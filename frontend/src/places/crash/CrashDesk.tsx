import { Tabs } from "radix-ui";
import { useCallback, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { type AirframeOut, type Catalogue, type Part, type Schemas } from "../../api/client";
import { useCatalogue, useJobs } from "../../api/queries";
import { DamageView } from "../../part/DamageView";
import { MARKS } from "../../part/Marks";
import { useLeft } from "../../part/useLeft";
import type { Subject } from "../../part/useStudy";
import { withPart } from "../../part/edits";
import { AirframeLine } from "../../part/AirframeLine";
import { Elsewhere } from "../../part/Elsewhere";
import { Kept } from "../../part/Kept";
import { useKept, useStored } from "../../part/useKept";
import { DeskPlan } from "./DeskPlan";
import { FailedCheck } from "./FailedCheck";
import { Measure } from "./Measure";
import { Mend } from "./Mend";
import { Pictures } from "./Pictures";
import { Record } from "./Record";
import { Slips } from "./Slips";
import { Work } from "./Work";
import { NotHere } from "../../words/NotHere";
import { InHead } from "../../words/InHead";

/** Loads an airframe and lays one of its parts on the crash desk. */
export function CrashDesk() {
  const { airframeId = "" } = useParams();
  const [round, setRound] = useState(0);
  return <Loaded key={airframeId + round} again={() => setRound(round + 1)} />;
}

function Loaded({ again }: { again: () => void }) {
  const { airframeId = "", partId = "" } = useParams();
  const airframe = useStored(airframeId);
  const catalogue = useCatalogue();
  const part = airframe.data?.document.parts?.find((p) => p.id === partId);
  if (airframe.isError || catalogue.isError || (airframe.data && !part))
    return <NotHere says="This part is not on your Shelf" to="/crash" way="Back to Crash desk" />;
  if (!airframe.data || !catalogue.data) return null;
  return <Desk state={airframe.data} partId={partId} catalogue={catalogue.data} again={again} />;
}

interface DeskProps {
  state: AirframeOut;
  partId: string;
  catalogue: Catalogue;
  again: () => void;
}

const TABS = ["broke", "mend", "work", "record", "slips"] as const;
const CONTENT = "min-h-0";

function Desk({ state, partId, catalogue, again }: DeskProps) {
  const { keeper, draft } = useKept(state);
  const [query, setQuery] = useSearchParams();
  const [option, setOption] = useState<Schemas["MendOption"] | null>(null);
  const jobs = useJobs(state.id);
  const { document, problems } = draft;
  const index = (document.parts ?? []).findIndex((p) => p.id === partId);
  const part = (document.parts ?? [])[index]!;
  const change = useCallback(
    (edit: (part: Part) => Part) => keeper.edit((d) => withPart(d, partId, edit)),
    [keeper, partId],
  );
  const subject = { document, part_id: partId, case_id: part.cases[0]!.id };
  const marks = part.damage?.length ?? 0;
  const asked = query.get("tab");
  // where a part is opened: what is marked then may be mended, but the first mark is not the last word on what broke
  const opening = { partId, tab: marks > 0 ? "mend" : "broke" } as const;
  const [opened, open] = useState<{ partId: string; tab: (typeof TABS)[number] }>(opening);
  if (opened.partId !== partId) open(opening);
  const tab = TABS.find((t) => t === asked) ?? opened.tab;
  const show = (next: string) =>
    setQuery((old) => {
      old.set("tab", next);
      return old;
    });
  const stored = async () => {
    await keeper.flush();
    const now = keeper.get();
    return now.phase === "saved" ? now.revision : null;
  };
  const mending = (jobs.data ?? []).filter((j) => j.part_id === partId && j.state !== "passed");
  const toDo = mending.length;
  const labels = {
    broke: `Damage${marks ? ` ${marks}` : ""}`,
    mend: "Repair",
    work: `Steps${toDo ? ` ${toDo}` : ""}`,
    record: "Log",
    slips: "Build mistakes",
  };
  return (
    <>
      <InHead>
        <h1 className="sr-only">
          {document.name}, {part.name}
        </h1>
        <span className="ml-auto flex items-center gap-1.5">
          <Kept draft={draft} step={(which) => void keeper.step(which)} />
        </span>
      </InHead>
      <AirframeLine {...{ document, part }} airframeId={state.id} place="crash" />
      <main className="mx-auto w-full max-w-[88rem] pb-12">
        <div className="grid gap-x-8 px-5 pt-3 md:grid-cols-[minmax(0,1fr)_24rem]">
          <DeskPlan
            {...{ subject, part, change }}
            mended={tab === "mend" ? (option?.part ?? null) : null}
            mending={mending.flatMap((j) => j.marks)}
            marked={() => show("broke")}
          />
          <Standing {...{ subject, part, mending, change }} />
        </div>
        <Tabs.Root value={tab} onValueChange={show}>
          <Tabs.List aria-label="Crash desk sections" className="flex flex-wrap border-b border-rule px-3">
            {TABS.map((key) => (
              <Tabs.Trigger
                key={key}
                value={key}
                className="label-type min-h-11 border-b-[3px] border-transparent px-3 data-[state=active]:border-pick data-[state=active]:text-pick"
              >
                {labels[key]}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <Tabs.Content value="broke" className={CONTENT}>
            <DamageView {...{ subject, part, catalogue, problems, change }} path={`parts[${index}]`} />
            <Measure />
            <Pictures airframeId={state.id} {...{ part, stored }} />
          </Tabs.Content>
          <Tabs.Content value="mend" className={CONTENT}>
            <Mend
              airframeId={state.id}
              {...{ subject, part, stored }}
              show={setOption}
              adopted={() => {
                show("work");
                again();
              }}
            />
          </Tabs.Content>
          <Tabs.Content value="work" className={CONTENT}>
            <Work airframeId={state.id} partId={partId} />
          </Tabs.Content>
          <Tabs.Content value="record" className={CONTENT}>
            <Record airframeId={state.id} {...{ subject, part, change }} />
          </Tabs.Content>
          <Tabs.Content value="slips" className={CONTENT}>
            <Slips {...{ subject, part, change }} />
          </Tabs.Content>
        </Tabs.Root>
      </main>
      <Elsewhere keeper={keeper} draft={draft} />
    </>
  );
}

const FLY = { sure: "✓", likely: "≈", reduced: "?", no: "✕" } as const;

interface StandingProps {
  subject: Subject;
  part: Part;
  mending: Schemas["JobOut"][];
  change: (edit: (part: Part) => Part) => void;
}

/** What stands: every mark in a line, what is being mended, and what is left of the part. */
function Standing({ subject, part, mending, change }: StandingProps) {
  const marks = part.damage ?? [];
  const { left, failed } = useLeft(subject, part);
  return (
    <aside aria-label="Current state" className="py-2 text-body leading-snug">
      {mending.map((job) =>
        job.state === "failed" ? (
          <FailedCheck key={job.id} {...{ job, subject, part, change }} />
        ) : (
          <p key={job.id} className="pb-2">
            <strong>In repair</strong>
            {`: ${job.marks.map((m) => MARKS[m.kind].toLowerCase()).join(", ") || "work"}; it flies when every step is done and every check measured.`}
          </p>
        ),
      )}
      {marks.length === 0 && mending.length === 0 && (
        <p className="text-soft">
          Nothing is marked on this part. Press on the drawing where it broke and say what it is; its number
          can be pulled to another place.
        </p>
      )}
      <ol>
        {marks.map((m, n) => (
          <li key={m.id} className="flex gap-2 border-b border-rule py-1">
            <span className="figure-type w-4 text-fail">{n + 1}</span>
            <span>
              {MARKS[m.kind]}
              {m.note && <span className="text-soft"> · {m.note}</span>}
            </span>
          </li>
        ))}
      </ol>
      {marks.length > 0 && !left && !failed && <p className="pt-2 text-soft">Reckoning what is left…</p>}
      {left && (
        <p aria-live="polite" className={`pt-2 ${left.fly === "no" ? "text-fail" : ""}`}>
          <strong>
            {mending.length > 0 && left.fly !== "no" ? "Once mended and checked:" : FLY[left.fly]}
          </strong>{" "}
          {left.says}
        </p>
      )}
    </aside>
  );
}
