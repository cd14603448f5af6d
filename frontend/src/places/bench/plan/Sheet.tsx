import { useQueryClient } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useCallback, useMemo, useState, type ReactNode } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { api, type Airframe, type Catalogue, type Part } from "../../../api/client";
import { keys, readAnew } from "../../../api/queries";
import { scaled } from "../../../charts/scaled";
import { freshId } from "../../../forms/ids";
import { Conflict } from "../../../part/Conflict";
import type { Keeper } from "../../../part/keeper";
import { KeyMap } from "../../../forms/KeyMap";
import { useShortcuts } from "../../../forms/keys";
import { BenchHeader } from "../BenchHeader";
import { CasePicker } from "../panels/CasePicker";
import { withPart } from "../../../part/edits";
import { HistoryDialog } from "../HistoryDialog";
import { LayupPanel } from "../panels/LayupPanel";
import { LoadPanel } from "../panels/LoadPanel";
import { OwnMaterials } from "../panels/OwnMaterials";
import { LoadSlider } from "../panels/LoadSlider";
import { MainViews, VIEWS, type View } from "../MainViews";
import { ShapePanel } from "../panels/ShapePanel";
import { shortcutsOf } from "../shortcuts";
import { TargetsPanel } from "../panels/TargetsPanel";
import { useEstimate } from "../../../part/useEstimate";
import { adopted, usePins } from "../usePins";
import { Verdict } from "../Verdict";
import { WorkingDialog } from "../WorkingDialog";

interface SheetProps {
  keeper: Keeper;
  draft: ReturnType<Keeper["get"]>;
  part: Part;
  /** The materials with the airframe's own, and without them. */
  catalogue: Catalogue;
  reference: Catalogue;
  header: (children?: ReactNode) => ReactNode;
}

const PANELS = [
  ["layup", "Lay-up"],
  ["shape", "Shape"],
  ["load", "Load"],
  ["wanted", "Wanted"],
] as const;

/** The work place for one part: what to change on the left, the drawing in the middle, the verdict at the foot. */
export function Sheet({ keeper, draft, part, catalogue, reference, header }: SheetProps) {
  const [query, setQuery] = useSearchParams();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { document } = draft;
  const chosen = part.cases.find((c) => c.id === query.get("case")) ?? part.cases[0]!;
  const view = VIEWS.find(([key]) => key === query.get("view"))?.[0] ?? "sheet";
  const { estimate, problems, reachable, busy } = useEstimate(document, part.id, chosen.id);
  const [selected, setSelected] = useState<string | null>(null);
  const [panel, setPanel] = useState<string>("layup");
  const [figure, openWorking] = useState<string | null>(null);
  const [overlay, setOverlay] = useState<"keys" | "history" | null>(null);
  const [cursor, setCursor] = useState(Math.round(part.span_mm * 0.35));
  const [putting, setPutting] = useState(false);
  const [wanted, setLoad] = useState(1);
  const [against, setAgainst] = useState<number | null>(null);
  const pins = usePins(keeper.id, document, part, chosen.id, estimate !== null);
  const most = Math.max(
    1.25,
    Math.min(1.25 * (estimate?.first.comes_at.typ ?? 1), 12),
    1.05 * Math.min(estimate?.failures[1]?.comes_at.typ ?? 0, 2.5),
  );
  const load = Math.min(wanted, most);
  const shown = useMemo(() => estimate && scaled(estimate, load), [estimate, load]);
  const farthest = useMemo(() => estimate && scaled(estimate, most), [estimate, most]);
  const at = Math.min(cursor, estimate?.span_mm ?? part.span_mm);
  const index = (document.parts ?? []).findIndex((p) => p.id === part.id);
  const partId = part.id;
  const change = useCallback(
    (edit: (part: Part) => Part) => keeper.edit((d) => withPart(d, partId, edit)),
    [keeper, partId],
  );
  const setParam = (key: string, value: string) =>
    setQuery(
      (old) => {
        old.set(key, value);
        return old;
      },
      { replace: true },
    );
  const pickCase = (id: string) => setParam("case", id);
  const show = (next: View) => setParam("view", next);
  const pinNow = async (name: string) => {
    await keeper.flush();
    return pins.pin(keeper.get().revision, name);
  };
  const take = (next: Part, mass?: number) => {
    keeper.edit((d) => ({
      ...withPart(d, part.id, () => ({ ...next, id: part.id })),
      ...(mass ? { all_up_mass_g: mass } : {}),
    }));
    show("sheet");
  };
  const newFrom = async (from: Airframe) => {
    const { data } = await api.POST("/api/airframes", {
      body: { ...from, name: `${from.name}, another`.slice(0, 80) },
    });
    if (!data) return;
    await readAnew(queries, keys.shelf);
    void navigate("/");
  };
  const setApart = () =>
    keeper.edit((d) => {
      const id = freshId(
        `${part.id}-right`.slice(0, 30),
        (d.parts ?? []).map((p) => p.id),
      );
      const right: Part = { ...part, id, name: `${part.name}, right`.slice(0, 80), hand: "right" };
      const left = withPart(d, part.id, (p) => ({ ...p, hand: "left" }));
      return { ...left, parts: [...left.parts, right] };
    });

  const shortcuts = shortcutsOf({
    part,
    selected,
    setSelected,
    change,
    cursor: at,
    setCursor,
    show,
    pickCase,
    chosen,
    openWorking,
    pinNow,
    pinCount: pins.pins.length,
    keeper,
    setPanel,
    put: () => setPutting(true),
    openKeys: () => setOverlay("keys"),
    openHistory: () => setOverlay("history"),
    load,
    most,
    setLoad,
  });
  useShortcuts(shortcuts);

  const shared = { part, problems, path: `parts[${index}]`, change };
  const subject = { document, part_id: part.id, case_id: chosen.id };
  const phase =
    !reachable && draft.phase !== "conflict" ? "offline" : problems.length ? "invalid" : draft.phase;
  const compared = pins.pins.find((p) => p.id === against);
  const others = compared && pins.figures.get(compared.id);
  const differs = useMemo(
    () => (compared && others ? { name: compared.name, figures: others } : null),
    [compared, others],
  );
  return (
    <div className="grid min-h-dvh grid-cols-[22rem_minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto] min-[1100px]:h-dvh max-[1099px]:grid-cols-1 max-[1099px]:grid-rows-none">
      <div className="col-span-full">
        {header(
          <BenchHeader
            {...{ document, part }}
            draft={{ ...draft, phase }}
            step={(way) => void keeper.step(way)}
            openHistory={() => setOverlay("history")}
            openKeys={() => setOverlay("keys")}
            airframeId={keeper.id}
          />,
        )}
      </div>

      <Tabs.Root
        value={panel}
        onValueChange={setPanel}
        className="flex min-h-0 flex-col border-rule min-[1100px]:border-r max-[1099px]:order-3"
      >
        <Tabs.List aria-label="What to change" className="flex border-b border-rule px-2">
          {PANELS.map(([value, label]) => (
            <Tabs.Trigger
              key={value}
              value={value}
              className="label-type min-h-11 flex-1 border-b-[3px] border-transparent data-[state=active]:border-pick data-[state=active]:text-pick"
            >
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="layup" className="min-h-0 flex-1 overflow-y-auto">
          <LayupPanel {...shared} {...{ catalogue, estimate, subject, selected, setSelected }} />
          <details className="px-4 pb-6">
            <summary className="label-type min-h-10 cursor-pointer">
              Measured by you{document.materials?.length ? ` (${document.materials.length})` : ""}
            </summary>
            <OwnMaterials {...{ document, problems }} catalogue={reference} edit={(e) => keeper.edit(e)} />
          </details>
        </Tabs.Content>
        <Tabs.Content value="shape" className="min-h-0 flex-1 overflow-y-auto p-5">
          <ShapePanel {...shared} {...{ catalogue, document, setApart }} edit={(e) => keeper.edit(e)} />
        </Tabs.Content>
        <Tabs.Content value="load" className="min-h-0 flex-1 overflow-y-auto p-5">
          <LoadPanel
            {...shared}
            {...{ document, chosen, estimate, catalogue, openWorking }}
            pick={pickCase}
          />
        </Tabs.Content>
        <Tabs.Content value="wanted" className="min-h-0 flex-1 overflow-y-auto p-5">
          <TargetsPanel {...shared} {...{ chosen, estimate }} />
        </Tabs.Content>
      </Tabs.Root>

      <main className="flex min-h-0 flex-col bg-sheet max-[1099px]:order-1">
        <div className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-rule px-5 py-1">
          <CasePicker {...{ part, estimate, chosen, pickCase }} />
          {estimate && <LoadSlider {...{ estimate, load, most, setLoad }} />}
        </div>
        {shown && farthest && estimate && (
          <MainViews
            {...{
              view,
              show,
              shown,
              farthest,
              estimate,
              part,
              catalogue,
              load,
              change,
              selected,
              setSelected,
            }}
            {...{
              setCursor,
              openWorking,
              subject,
              pins,
              pinNow,
              take,
              against,
              setAgainst,
              chosen,
            }}
            {...{ putting, setPutting, problems }}
            path={shared.path}
            cursor={at}
            adopt={(pin) => take(adopted(part, pin.part))}
            openHistory={() => setOverlay("history")}
            name={`${document.name} ${part.name}`}
          />
        )}
      </main>

      <Verdict {...{ estimate, problems, openWorking, busy }} against={differs} />
      {estimate && figure && (
        <WorkingDialog estimate={estimate} figure={figure} onClose={() => openWorking(null)} />
      )}
      {overlay === "keys" && <KeyMap place="Bench" shortcuts={shortcuts} onClose={() => setOverlay(null)} />}
      {overlay === "history" && (
        <HistoryDialog
          airframeId={keeper.id}
          revision={draft.revision}
          partId={part.id}
          pin={pins.pin}
          bringBack={(next) => keeper.edit(() => next)}
          newFrom={(from) => void newFrom(from)}
          onClose={() => setOverlay(null)}
        />
      )}
      {draft.theirs && draft.phase === "conflict" && <Conflict keeper={keeper} draft={draft} />}
    </div>
  );
}
