import { useQuery } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { api, must, type AirframeOut, type Catalogue } from "../api/client";
import { Keeper } from "../shared/keeper";
import { Conflict } from "./Conflict";
import { CutView } from "./CutView";
import { withPart } from "./edits";
import { Findings } from "./Findings";
import { LayupPanel } from "./LayupPanel";
import { LoadPanel } from "./LoadPanel";
import { LoadSlider } from "./LoadSlider";
import { scaled } from "../drawing/scaled";
import { ShapePanel } from "./ShapePanel";
import { SpanSheet } from "./SpanSheet";
import { serverStore } from "./store";
import { Verdict } from "./Verdict";
import { WorkingDialog } from "./WorkingDialog";
import { useEstimate } from "./useEstimate";

const PHASE_WORDS = {
  saved: "saved",
  saving: "saving…",
  invalid: "not saved: see the marked field",
  offline: "server away; kept in this browser",
  conflict: "changed elsewhere",
} as const;

type Header = (children?: ReactNode) => ReactNode;

/** Loads an airframe and the materials, then hands them to the work place. */
export function Bench({ header }: { header: Header }) {
  const { airframeId = "", partId = "" } = useParams();
  const airframe = useQuery({
    queryKey: ["airframe", airframeId],
    queryFn: () =>
      must(api.GET("/api/airframes/{airframe_id}", { params: { path: { airframe_id: airframeId } } })),
    gcTime: 0,
  });
  const catalogue = useQuery({ queryKey: ["catalogue"], queryFn: () => must(api.GET("/api/catalogue")) });
  if (airframe.isError || catalogue.isError)
    return (
      <>
        {header()}
        <main className="p-8">
          <h1 className="text-xl font-bold">This airframe is not on your shelf</h1>
          <Link to="/" className="text-pick underline">
            Back to the shelf
          </Link>
        </main>
      </>
    );
  if (!airframe.data || !catalogue.data) return header();
  return (
    <WorkPlace
      key={airframe.data.id}
      state={airframe.data}
      partId={partId}
      catalogue={catalogue.data}
      header={header}
    />
  );
}

interface WorkPlaceProps {
  state: AirframeOut;
  partId: string;
  catalogue: Catalogue;
  header: Header;
}

function WorkPlace({ state, partId, catalogue, header }: WorkPlaceProps) {
  const keeper = useMemo(() => new Keeper(state.id, state, serverStore, window.localStorage), [state]);
  const draft = useSyncExternalStore(keeper.subscribe, keeper.get);
  const part = draft.document.parts?.find((p) => p.id === partId);
  if (!part)
    return (
      <>
        {header()}
        <main className="p-8">
          <h1 className="text-xl font-bold">This airframe has no such part</h1>
          <Link to="/" className="text-pick underline">
            Back to the shelf
          </Link>
        </main>
      </>
    );
  return <Sheet keeper={keeper} draft={draft} part={part} catalogue={catalogue} header={header} />;
}

interface SheetProps {
  keeper: Keeper;
  draft: ReturnType<Keeper["get"]>;
  part: NonNullable<AirframeOut["document"]["parts"]>[number];
  catalogue: Catalogue;
  header: Header;
}

function Sheet({ keeper, draft, part, catalogue, header }: SheetProps) {
  const [query, setQuery] = useSearchParams();
  const chosen = part.cases.find((c) => c.id === query.get("case")) ?? part.cases[0]!;
  const { estimate, problems, reachable } = useEstimate(draft.document, part.id, chosen.id);
  const [selected, setSelected] = useState<string | null>(null);
  const [figure, openWorking] = useState<string | null>(null);
  const [cursor, setCursor] = useState(Math.round(part.span_mm * 0.35));
  const [wanted, setLoad] = useState(1);
  const most = Math.max(
    1.25,
    1.25 * (estimate?.first.holds.typ ?? 1),
    1.05 * Math.min(estimate?.failures[1]?.holds.typ ?? 0, 2.5),
  );
  const load = Math.min(wanted, most);
  const shown = useMemo(() => estimate && scaled(estimate, load), [estimate, load]);
  const farthest = useMemo(() => estimate && scaled(estimate, most), [estimate, most]);
  const at = Math.min(cursor, estimate?.span_mm ?? part.span_mm);
  const index = (draft.document.parts ?? []).findIndex((p) => p.id === part.id);
  const change = (edit: Parameters<typeof withPart>[2]) => keeper.edit((d) => withPart(d, part.id, edit));
  const pickCase = (id: string) => setQuery({ case: id }, { replace: true });

  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.matches("input, select, textarea");
      if (!(e.ctrlKey || e.metaKey) || e.key.toLowerCase() !== "z" || typing) return;
      e.preventDefault();
      void keeper.step(e.shiftKey ? "redo" : "undo");
    };
    const onLeave = () => void keeper.flush();
    window.addEventListener("keydown", onKey);
    window.addEventListener("pagehide", onLeave);
    return () => {
      window.removeEventListener("keydown", onKey);
      window.removeEventListener("pagehide", onLeave);
      void keeper.flush();
    };
  }, [keeper]);

  const shared = { part, problems, path: `parts[${index}]`, change };
  const phase =
    !reachable && draft.phase !== "conflict" ? "offline" : problems.length ? "invalid" : draft.phase;
  return (
    <div className="grid min-h-dvh grid-cols-[22rem_minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto] min-[1100px]:h-dvh max-[1099px]:grid-cols-1 max-[1099px]:grid-rows-none">
      <div className="col-span-full">
        {header(
          <>
            <h1 className="font-label font-semibold">
              {draft.document.name} <span className="text-soft">·</span> {part.name}
            </h1>
            <span className="ml-auto flex items-center gap-2">
              <span
                role="status"
                className={`text-sm ${phase === "saved" || phase === "saving" ? "text-soft" : "text-fail"}`}
              >
                {PHASE_WORDS[phase]}
              </span>
              <button
                type="button"
                className="key-button"
                disabled={!draft.canUndo && phase !== "invalid"}
                onClick={() => void keeper.step("undo")}
              >
                Undo
              </button>
              <button
                type="button"
                className="key-button"
                disabled={!draft.canRedo}
                onClick={() => void keeper.step("redo")}
              >
                Redo
              </button>
            </span>
          </>,
        )}
      </div>

      <Tabs.Root
        defaultValue="layup"
        className="flex min-h-0 flex-col border-rule min-[1100px]:border-r max-[1099px]:order-3"
      >
        <Tabs.List aria-label="What to change" className="flex border-b border-rule px-3">
          {[
            ["layup", "Lay-up"],
            ["shape", "Shape"],
            ["load", "Load"],
          ].map(([value, label]) => (
            <Tabs.Trigger
              key={value}
              value={value!}
              className="label-type min-h-11 flex-1 border-b-[3px] border-transparent data-[state=active]:border-pick data-[state=active]:text-pick"
            >
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="layup" className="min-h-0 flex-1 overflow-y-auto">
          <LayupPanel {...shared} {...{ catalogue, estimate, selected, setSelected }} />
        </Tabs.Content>
        <Tabs.Content value="shape" className="min-h-0 flex-1 overflow-y-auto p-5">
          <ShapePanel
            {...shared}
            catalogue={catalogue}
            document={draft.document}
            edit={(e) => keeper.edit(e)}
          />
        </Tabs.Content>
        <Tabs.Content value="load" className="min-h-0 flex-1 overflow-y-auto p-5">
          <LoadPanel
            {...shared}
            document={draft.document}
            chosen={chosen}
            pick={pickCase}
            estimate={estimate}
            openWorking={openWorking}
          />
        </Tabs.Content>
      </Tabs.Root>

      <main className="min-h-0 overflow-y-auto bg-sheet max-[1099px]:order-1">
        <div className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-rule px-5 py-1.5">
          <CasePicker {...{ part, estimate, chosen, pickCase }} />
          {estimate && <LoadSlider {...{ estimate, load, most, setLoad }} />}
        </div>
        {shown && farthest && (
          <>
            <div className="grid grid-cols-[minmax(0,1fr)_19rem] max-md:grid-cols-1">
              <SpanSheet
                estimate={shown}
                farthest={farthest}
                {...{ load, part, change, selected, setSelected }}
                cursor={at}
                setCursor={setCursor}
              />
              <Findings estimate={shown} load={load} cursor={at} openWorking={openWorking} />
            </div>
            <CutView estimate={shown} {...{ selected, setSelected }} cursor={at} />
          </>
        )}
      </main>

      <Verdict estimate={estimate} problems={problems} openWorking={openWorking} />
      {estimate && figure && (
        <WorkingDialog estimate={estimate} figure={figure} onClose={() => openWorking(null)} />
      )}
      {draft.theirs && draft.phase === "conflict" && <Conflict keeper={keeper} draft={draft} />}
    </div>
  );
}

interface PickerProps {
  part: SheetProps["part"];
  estimate: ReturnType<typeof useEstimate>["estimate"];
  chosen: { id: string };
  pickCase: (id: string) => void;
}

/** The kept cases: side by side while they are few, else in a list; what is not enough is crossed. */
function CasePicker({ part, estimate, chosen, pickCase }: PickerProps) {
  const marked = (id: string, name: string) =>
    estimate?.verdicts.find((v) => v.case_id === id)?.enough === "no" ? `✕ ${name}` : name;
  if (part.cases.length > 2)
    return (
      <select
        aria-label="Load case"
        className="field-box w-64"
        value={chosen.id}
        onChange={(e) => pickCase(e.target.value)}
      >
        {part.cases.map((c) => (
          <option key={c.id} value={c.id}>
            {marked(c.id, c.name)}
          </option>
        ))}
      </select>
    );
  return (
    <div role="radiogroup" aria-label="Load case" className="flex gap-1">
      {part.cases.map((c) => (
        <button
          key={c.id}
          type="button"
          role="radio"
          aria-checked={c.id === chosen.id}
          onClick={() => pickCase(c.id)}
          className="label-type min-h-10 border border-transparent px-3 aria-checked:border-ink aria-checked:bg-raised"
        >
          {marked(c.id, c.name)}
        </button>
      ))}
    </div>
  );
}
