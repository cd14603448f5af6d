import { useParams, useSearchParams } from "react-router";
import type { AirframeOut, Part, Schemas } from "../../api/client";
import { useWriteLog } from "../../api/changes";
import { useLog } from "../../api/queries";
import { TextField, Tick } from "../../forms/fields";
import { useSettled } from "../../forms/useSettled";
import { useTyped } from "../../forms/useTyped";
import { plain } from "../../forms/units";
import { AirframeLine } from "../../part/AirframeLine";
import { KIND, type Kind } from "../../part/logKinds";
import { useStored } from "../../part/useKept";
import { InHead } from "../../words/InHead";
import { NotHere } from "../../words/NotHere";
import { ShowOlder } from "../../words/ShowOlder";
import { canKeep, EMPTY, eventOf, momentOf, type Typed } from "./entry";
import { LogEntry } from "./LogEntry";
import { EntryFields } from "./EntryFields";
import { LogFile } from "./LogFile";

/** The Log: everything that happened to an airframe, the newest first. */
export function Log() {
  const { airframeId = "" } = useParams();
  const airframe = useStored(airframeId);
  if (airframe.isError) return <NotHere says="This airframe is not on your Shelf" />;
  if (!airframe.data) return null;
  return <Place key={airframe.data.id} state={airframe.data} />;
}

function Place({ state }: { state: AirframeOut }) {
  const parts = state.document.parts ?? [];
  return (
    <>
      <InHead>
        <h1 className="sr-only">{state.document.name}: log</h1>
      </InHead>
      <AirframeLine document={state.document} airframeId={state.id} place="log" />
      <main className="mx-auto grid w-full max-w-[88rem] gap-x-10 px-6 pb-10 max-sm:px-4 lg:grid-cols-[minmax(0,1fr)_23rem]">
        <Add airframeId={state.id} parts={parts} />
        <TimeLine airframeId={state.id} parts={parts} />
      </main>
    </>
  );
}

/** All entries with what they count; found by words and kinds, which stay in the address. */
function TimeLine({ airframeId, parts }: { airframeId: string; parts: Part[] }) {
  const [query, setQuery] = useSearchParams();
  const words = query.get("words") ?? "";
  const kinds = (query.get("kinds") ?? "").split(" ").filter((k): k is Kind => k in KIND);
  const log = useLog(airframeId, useSettled(words, 150), kinds);
  const set = (key: string, value: string) =>
    setQuery(
      (old) => {
        if (value) old.set(key, value);
        else old.delete(key);
        return old;
      },
      { replace: true },
    );
  const nameOf = (id: string | null | undefined) => parts.find((p) => p.id === id)?.name ?? "";
  const toggle = (kind: Kind, on: boolean) =>
    set("kinds", (on ? [...kinds, kind] : kinds.filter((k) => k !== kind)).join(" "));
  return (
    <section aria-label="Entries" className="mt-6">
      <div className="flex flex-wrap items-end justify-between border-b border-ink pb-1">
        <h2 className="text-title font-bold">Log</h2>
        <LogFile airframeId={airframeId} parts={parts} />
      </div>
      <Counts counts={log.first?.counts ?? []} />
      <Findings findings={log.first?.findings ?? []} nameOf={nameOf} />
      <div className="grid grid-cols-[minmax(10rem,16rem)_minmax(0,1fr)] items-end gap-x-4 py-3 max-sm:grid-cols-1">
        <TextField label="Find in the log" value={words} onChange={(v) => set("words", v)} />
        <details>
          <summary className="label-type min-h-10 cursor-pointer py-2 text-body">
            {kinds.length === 0 ? "All types" : kinds.map((k) => KIND[k]).join(", ")}
          </summary>
          <div className="grid grid-cols-3 gap-x-3 max-sm:grid-cols-2" role="group" aria-label="Entry types">
            {(Object.keys(KIND) as Kind[]).map((k) => (
              <Tick key={k} label={KIND[k]} checked={kinds.includes(k)} onChange={(on) => toggle(k, on)} />
            ))}
          </div>
        </details>
      </div>
      <ol aria-label="Log entries" aria-busy={log.rows === undefined} className="border-t border-rule">
        {log.rows?.map((e) => (
          <LogEntry
            key={e.id}
            airframeId={airframeId}
            entry={e}
            parts={parts}
            partName={nameOf(e.event.part_id)}
          />
        ))}
      </ol>
      {log.rows?.length === 0 && (
        <p className="py-2 text-soft">
          {words || kinds.length > 0
            ? "No entry fits. Try fewer words, or all types."
            : "No entries yet. Log the first flight or building step; weighings, damage and repairs come by themselves."}
        </p>
      )}
      <ShowOlder list={log} what="entries" />
    </section>
  );
}

/** Flights in all and since the last crash, repair and check. */
function Counts({ counts }: { counts: Schemas["Count"][] }) {
  if (counts.length === 0) return null;
  return (
    <dl aria-label="Flights" className="flex flex-wrap gap-x-8 gap-y-2 border-b border-rule py-2">
      {counts.map((c) => (
        <div key={c.since}>
          <dt className="label-type text-small text-soft">
            Flights {c.when ? "since " : ""}
            {c.since}
          </dt>
          <dd className="figure-type text-title">
            {c.flights}
            {c.minutes > 0 && <span className="text-body text-soft"> · {plain(c.minutes, 3)} min</span>}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** Places that break again and again, breaks beside repairs. */
function Findings({ findings, nameOf }: { findings: Schemas["Finding"][]; nameOf: (id: string) => string }) {
  return findings.map((f) => (
    <p key={f.part_id + f.kind + f.at_mm} className="border-b border-rule py-1.5 leading-snug">
      <strong className="text-fail">⚠</strong> {nameOf(f.part_id)}: {f.says}
    </p>
  ));
}

/** Put something on the time line; what is typed stays until it is kept. */
function Add({ airframeId, parts }: { airframeId: string; parts: Part[] }) {
  const [typed, write] = useTyped<Typed>(`fletcher.log.${airframeId}`, EMPTY);
  const send = useWriteLog(airframeId);
  const at = (path: string) => send.error?.problems.find((p) => p.path === path);
  const other = send.error?.problems.find((p) => !/^(event|happened)\b/.test(p.path));
  return (
    <form
      aria-label="Add entry"
      className="mt-6 grid content-start gap-3 lg:order-last print:hidden"
      onSubmit={(e) => {
        e.preventDefault();
        const body = { event: eventOf(typed), happened: momentOf(typed.when) };
        send.mutate(body, {
          onSuccess: () => write((now) => ({ ...EMPTY, kind: now.kind, battery: now.battery })),
        });
      }}
    >
      <h2 className="border-b border-ink pb-1 text-lead font-semibold">Add entry</h2>
      <EntryFields {...{ typed, parts, at }} change={(update) => write((now) => ({ ...now, ...update }))} />
      {other && (
        <p role="alert" className="text-fail">
          {other.message}
        </p>
      )}
      <button type="submit" className="key-main justify-self-start" disabled={!canKeep(typed)}>
        Add to log
      </button>
    </form>
  );
}
