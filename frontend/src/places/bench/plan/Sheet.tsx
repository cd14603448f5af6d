import { useCallback, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import type { Catalogue, Estimate, Part } from "../../../api/client";
import { AirframeLine } from "../../../part/AirframeLine";
import { Elsewhere } from "../../../part/Elsewhere";
import type { Keeper } from "../../../part/keeper";
import { KeyMap } from "../../../forms/KeyMap";
import { useShortcuts } from "../../../forms/keys";
import { BenchHeader } from "../BenchHeader";
import { CasePicker } from "../panels/CasePicker";
import { withPart } from "../../../part/edits";
import { HistoryDialog } from "../HistoryDialog";
import { LoadSlider } from "../panels/LoadSlider";
import { MainViews, VIEWS, type View } from "../MainViews";
import { shortcutsOf } from "../shortcuts";
import { useEstimate } from "../../../part/useEstimate";
import { adopted, usePins } from "../usePins";
import { Tour } from "../Tour";
import { Verdict } from "../Verdict";
import { WorkingDialog } from "../WorkingDialog";
import { BenchPanels } from "./BenchPanels";
import { useLoad } from "./useLoad";
import { usePartActions } from "./usePartActions";
import { InHead } from "../../../words/InHead";

interface SheetProps {
  keeper: Keeper;
  draft: ReturnType<Keeper["get"]>;
  part: Part;
  /** The materials with the airframe's own, and without them. */
  catalogue: Catalogue;
  reference: Catalogue;
}

/** The work place for one part: what to change on the left, the drawing in the middle, the verdict at the foot. */
export function Sheet({ keeper, draft, part, catalogue, reference }: SheetProps) {
  const [query, setQuery] = useSearchParams();
  const { document } = draft;
  const chosen = part.cases.find((c) => c.id === query.get("case")) ?? part.cases[0]!;
  const view = VIEWS.find(([key]) => key === query.get("view"))?.[0] ?? "sheet";
  const { estimate, problems, away, busy } = useEstimate(document, part.id, chosen.id);
  const [selected, setSelected] = useState<string | null>(null);
  const [panel, setPanel] = useState<string>("layup");
  const [figure, openWorking] = useState<string | null>(null);
  const [overlay, setOverlay] = useState<"keys" | "history" | null>(null);
  const [cursor, setCursor] = useState(Math.round(part.span_mm * 0.35));
  const [putting, setPutting] = useState(false);
  const [against, setAgainst] = useState<number | null>(null);
  const [tour, askTour] = useState(0);
  const pins = usePins(keeper.id, document, part, chosen.id, estimate !== null);
  const { load, most, setLoad, shown, farthest } = useLoad(estimate);
  const at = Math.min(cursor, estimate?.span_mm ?? part.span_mm);
  const index = (document.parts ?? []).findIndex((p) => p.id === part.id);
  const partId = part.id;
  const change = useCallback(
    (edit: (part: Part) => Part) => keeper.edit((d) => withPart(d, partId, edit)),
    [keeper, partId],
  );
  /** A view is a place that one comes back to; a load case is not. */
  const setParam = (key: string, value: string) =>
    setQuery(
      (old) => {
        old.set(key, value);
        return old;
      },
      { replace: key !== "view" },
    );
  const [pickCase, show] = [(id: string) => setParam("case", id), (next: View) => setParam("view", next)];
  const { pinNow, take, newFrom, setApart } = usePartActions(keeper, part, pins, () => show("sheet"));
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
  const phase = away && draft.phase !== "conflict" ? away : problems.length ? "invalid" : draft.phase;
  const compared = pins.pins.find((p) => p.id === against);
  const others = compared && pins.figures.get(compared.id);
  const differs = useMemo(
    () => (compared && others ? { name: compared.name, figures: others } : null),
    [compared, others],
  );
  return (
    <>
      <AirframeLine {...{ document, part }} airframeId={keeper.id} place="bench" />
      <div
        data-fills
        className="grid min-h-0 flex-1 grid-cols-[22rem_minmax(0,1fr)] grid-rows-[minmax(0,1fr)_auto] max-[1099px]:grid-cols-1 max-[1099px]:grid-rows-none"
      >
        <InHead>
          <BenchHeader
            {...{ document, part }}
            draft={{ ...draft, phase }}
            step={(way) => void keeper.step(way)}
            openHistory={() => setOverlay("history")}
            openKeys={() => setOverlay("keys")}
          />
        </InHead>

        <BenchPanels
          {...shared}
          {...{ panel, setPanel, document, catalogue, reference, estimate, subject, chosen }}
          {...{ selected, setSelected, setApart, openWorking }}
          pick={pickCase}
          edit={(e) => keeper.edit(e)}
        />

        <main className="flex min-h-0 flex-col bg-sheet max-[1099px]:order-1">
          <Tour {...{ part, chosen, figure }} asked={tour} />
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

        <Verdict {...{ estimate, problems, openWorking, busy, subject, take }} against={differs} />
        <Overlays
          {...{ keeper, draft, part, estimate, figure, openWorking, overlay, setOverlay, shortcuts, newFrom }}
          pin={pins.pin}
          tour={() => askTour(tour + 1)}
        />
        <Elsewhere keeper={keeper} draft={draft} />
      </div>
    </>
  );
}

interface OverlaysProps {
  keeper: Keeper;
  draft: SheetProps["draft"];
  part: Part;
  estimate: Estimate | null;
  figure: string | null;
  openWorking: (figure: string | null) => void;
  overlay: "keys" | "history" | null;
  setOverlay: (overlay: "keys" | "history" | null) => void;
  shortcuts: ReturnType<typeof shortcutsOf>;
  newFrom: ReturnType<typeof usePartActions>["newFrom"];
  pin: ReturnType<typeof usePins>["pin"];
  tour: () => void;
}

/** What opens over the sheet: the working of a figure, the keys, the history. */
function Overlays(props: OverlaysProps) {
  const { keeper, draft, part, estimate, figure, openWorking, overlay, setOverlay, shortcuts } = props;
  return (
    <>
      {estimate && figure && (
        <WorkingDialog estimate={estimate} figure={figure} onClose={() => openWorking(null)} />
      )}
      {overlay === "keys" && (
        <KeyMap place="Bench" {...{ shortcuts }} tour={props.tour} onClose={() => setOverlay(null)} />
      )}
      {overlay === "history" && (
        <HistoryDialog
          airframeId={keeper.id}
          revision={draft.revision}
          partId={part.id}
          pin={props.pin}
          bringBack={(next) => keeper.edit(() => next)}
          newFrom={props.newFrom}
          onClose={() => setOverlay(null)}
        />
      )}
    </>
  );
}
