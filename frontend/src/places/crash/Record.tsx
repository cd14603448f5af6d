import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, must, type Part, type Schemas } from "../../api/client";
import { useWriteLog } from "../../api/changes";
import { useLog } from "../../api/queries";
import { WHAT } from "../../part/DamageView";
import { LogRow } from "../../part/LogRow";
import type { Subject } from "../../part/useStudy";
import { ShowOlder } from "../../words/ShowOlder";
import { Choice, OptionalNumber, TextField } from "../../forms/fields";
import { plain, show } from "../../forms/units";

interface Props {
  airframeId: string;
  subject: Subject;
  part: Part;
  change: (edit: (part: Part) => Part) => void;
}

/** What happened to this airframe, what the record shows, and what would harden a place that breaks again. */
export function Record({ airframeId, subject, part, change }: Props) {
  const log = useLog(airframeId);
  const findings = (log.first?.findings ?? []).filter((f) => f.part_id === part.id);
  const nameOf = (id: string | null | undefined) =>
    subject.document.parts?.find((p) => p.id === id)?.name ?? "";
  return (
    <section className="grid gap-x-10 px-5 py-3 lg:grid-cols-[minmax(0,1fr)_23rem]" aria-label="Log">
      <div>
        {findings.length > 0 && (
          <>
            <h2 className="border-b border-ink text-lead font-semibold">Patterns in the log</h2>
            <ul aria-label="Findings">
              {findings.map((f) => (
                <li key={f.kind + f.at_mm} className="border-b border-rule py-1.5">
                  <strong className="text-fail">⚠</strong> {f.says}
                </li>
              ))}
            </ul>
          </>
        )}
        <Toughen
          key={`${part.id} ${findings[0]?.at_mm ?? ""}`}
          {...{ subject, part, change }}
          at={findings[0] ? Math.round(findings[0].at_mm) : null}
        />
        <h2 className="mt-6 flex justify-between border-b border-ink text-lead font-semibold">
          Entries
          <Link to={`/log/${airframeId}`} className="text-body font-normal underline">
            Whole Log
          </Link>
        </h2>
        <ol aria-label="Entries">
          {log.rows?.map((e) => (
            <LogRow key={e.id} entry={e} partName={nameOf(e.event.part_id)} />
          ))}
        </ol>
        {log.rows?.length === 0 && (
          <p className="py-2 text-soft">
            No entries yet. Crashes, repairs, checks and notes appear here in order.
          </p>
        )}
        <ShowOlder list={log} what="entries" />
      </div>
      <Enter airframeId={airframeId} part={part} />
    </section>
  );
}

/** Put a crash or a note on the time line. */
function Enter({ airframeId, part }: { airframeId: string; part: Part }) {
  const [kind, setKind] = useState<"crash" | "note">("crash");
  const [says, setSays] = useState("");
  const [what, setWhat] = useState("nose_in");
  const [speed, setSpeed] = useState<number | null>(null);
  const [at, setAt] = useState<number | null>(null);
  const write = useWriteLog(airframeId);
  const told = write.error?.problems[0];
  const send = () => {
    const label = WHAT.find((w) => w.value === what)!.label;
    const crash = { what: what as Schemas["Crash"]["what"], speed_m_s: speed, at_mm: at };
    const event = {
      kind,
      part_id: part.id,
      says: says.trim() || label,
      crash: kind === "crash" ? crash : null,
      marks: [],
      stretches_mm: [],
    };
    write.mutate({ event }, { onSuccess: () => setSays("") });
  };
  return (
    <form
      aria-label="Add entry"
      className="grid content-start gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <h2 className="border-b border-ink text-lead font-semibold">Add entry</h2>
      <Choice
        label="Entry type"
        value={kind}
        options={[
          { value: "crash", label: "A crash" },
          { value: "note", label: "A note" },
        ]}
        onChange={(v) => setKind(v)}
      />
      {kind === "crash" && (
        <>
          <Choice label="What happened" value={what} options={WHAT} onChange={setWhat} />
          <div className="grid grid-cols-2 gap-x-4">
            <OptionalNumber label="Speed" value={speed} quantity="speed" onChange={setSpeed} />
            <OptionalNumber label="Position from root" value={at} quantity="length" onChange={setAt} />
          </div>
        </>
      )}
      <TextField label="Notes" value={says} longest={600} onChange={setSays} />
      {told && (
        <p role="alert" className="text-fail">
          {told.path} {told.message}
        </p>
      )}
      <button
        type="submit"
        className="key-button justify-self-start"
        disabled={kind === "note" && says.trim() === ""}
      >
        Add to log
      </button>
    </form>
  );
}

/** What would let this part take more of such a crash, computed. */
function Toughen({
  subject,
  part,
  change,
  at,
}: Pick<Props, "subject" | "part" | "change"> & { at: number | null }) {
  const [what, setWhat] = useState("pole");
  const [place, setPlace] = useState<number | null>(at);
  const [asked, setAsked] = useState(false);
  const crash = {
    what: what as Schemas["Crash"]["what"],
    speed_m_s: null,
    at_mm: place ?? Math.round(part.span_mm / 2),
  };
  const study = useQuery({
    queryKey: ["toughen", JSON.stringify(part.layers), part.id, crash],
    queryFn: ({ signal }) => must(api.POST("/api/crash/toughen", { body: { ...subject, crash }, signal })),
    enabled: asked || at !== null,
    retry: false,
  });
  return (
    <>
      <h2 className="mt-6 border-b border-ink text-lead font-semibold">How to toughen it</h2>
      <div className="grid max-w-xl grid-cols-2 gap-x-4 py-2">
        <Choice
          label="Crash type"
          value={what}
          options={WHAT.filter((w) => w.value !== "heat")}
          onChange={(v) => {
            setWhat(v);
            setAsked(true);
          }}
        />
        <OptionalNumber
          label="Position from root"
          value={place}
          quantity="length"
          onChange={(v) => {
            setPlace(v);
            setAsked(true);
          }}
        />
      </div>
      {study.isFetching && <p className="text-soft">Trying reinforcements…</p>}
      {study.data && study.data.length === 0 && (
        <p className="text-body">Nothing that was tried helps against this.</p>
      )}
      <ul aria-label="Ways to toughen it">
        {(study.data ?? []).map((t) => (
          <li key={t.says} className="flex items-center justify-between gap-4 border-b border-rule py-1.5">
            <span>
              <strong>{t.says}</strong>:{" "}
              {t.depth_mm && t.depth_before_mm && (
                <>
                  cut <span className="figure-type">{show(t.depth_mm.typ, "length", 2)}</span> deep{" "}
                  {t.through_before
                    ? "and no longer right through"
                    : `in place of ${show(t.depth_before_mm.typ, "length", 2)}`}
                  ;{" "}
                </>
              )}
              breaks at <span className="figure-type">{plain(t.holds.typ, 3)} ×</span> the impact{" "}
              <span className="text-soft">
                ({plain(t.holds.low, 2)}–{plain(t.holds.high, 2)}, before {plain(t.before.typ, 2)}),{" "}
                {show(t.more_g.typ, "mass", 2)} more
              </span>
            </span>
            <button
              type="button"
              className="key-button whitespace-nowrap"
              onClick={() => change((p) => ({ ...p, layers: t.part.layers ?? [], root: t.part.root }))}
            >
              Apply<span className="sr-only">: {t.says}</span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
