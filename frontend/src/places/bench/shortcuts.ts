import type { LoadCase, Part } from "../../api/client";
import { freshId } from "../../forms/ids";
import type { Keeper } from "../../part/keeper";
import type { Shortcut } from "../../forms/keys";
import { duplicated, moved, withLayer } from "../../part/edits";
import { VIEWS, type View } from "./MainViews";

interface Hands {
  part: Part;
  selected: string | null;
  setSelected: (id: string | null) => void;
  change: (edit: (part: Part) => Part) => void;
  cursor: number;
  setCursor: (y: number) => void;
  show: (view: View) => void;
  chosen: LoadCase;
  pickCase: (id: string) => void;
  openWorking: (figure: string) => void;
  pinNow: (name: string) => Promise<string | null>;
  pinCount: number;
  keeper: Keeper;
  setPanel: (panel: string) => void;
  put: () => void;
  openKeys: () => void;
  openHistory: () => void;
  load: number;
  most: number;
  setLoad: (load: number) => void;
}

/** Everything that keys do on the Bench. */
export function shortcutsOf(h: Hands): Shortcut[] {
  const { part, selected, change } = h;
  const ids = part.layers.map((l) => l.id);
  const step = (by: 1 | -1) => {
    if (!ids.length) return;
    const at = selected ? ids.indexOf(selected) : by > 0 ? -1 : 0;
    h.setPanel("layup");
    h.setSelected(ids[(at + by + ids.length) % ids.length]!);
  };
  const along = (by: number) => h.setCursor(Math.max(0, Math.min(part.span_mm, h.cursor + by)));
  const loaded = (by: number) =>
    h.setLoad(Math.max(0, Math.min(h.most, Math.round((h.load + by) * 100) / 100)));
  const onLine = (run: (id: string) => void) => () => selected && run(selected);
  const nextCase = () => {
    const at = part.cases.findIndex((c) => c.id === h.chosen.id);
    h.pickCase(part.cases[(at + 1) % part.cases.length]!.id);
  };
  return [
    { combo: "?", says: "keyboard shortcuts", run: h.openKeys },
    { combo: "Ctrl+Z", says: "undo", run: () => void h.keeper.step("undo") },
    { combo: "Ctrl+Shift+Z", says: "redo", run: () => void h.keeper.step("redo") },
    { combo: "Ctrl+Y", says: "redo", run: () => void h.keeper.step("redo") },
    ...VIEWS.map(([view, label], i): Shortcut => ({
      combo: i < 10 ? String((i + 1) % 10) : "X",
      says: `view: ${label}`,
      run: () => h.show(view),
    })),
    { combo: "J", says: "next lay-up item", run: () => step(1) },
    { combo: "K", says: "previous lay-up item", run: () => step(-1) },
    { combo: "Esc", says: "deselect item", run: () => h.setSelected(null) },
    {
      combo: "O",
      says: "include or skip item",
      run: onLine((id) => change((p) => withLayer(p, id, (l) => ({ ...l, enabled: l.enabled === false })))),
    },
    {
      combo: "D",
      says: "duplicate item",
      run: onLine((id) => {
        const copy = freshId("line", ids);
        change((p) => duplicated(p, id, copy));
        h.setSelected(copy);
      }),
    },
    { combo: "Alt+↑", says: "move item earlier", run: onLine((id) => change((p) => moved(p, id, -1))) },
    { combo: "Alt+↓", says: "move item later", run: onLine((id) => change((p) => moved(p, id, 1))) },
    {
      combo: "Del",
      says: "remove item",
      run: onLine((id) => {
        change((p) => withLayer(p, id, () => null));
        h.setSelected(null);
      }),
    },
    { combo: "N", says: "add at cross-section", run: h.put },
    { combo: "←", says: "cross-section 5 mm inboard", run: () => along(-5) },
    { combo: "→", says: "cross-section 5 mm outboard", run: () => along(5) },
    { combo: "+", says: "more load", run: () => loaded(0.1) },
    { combo: "-", says: "less load", run: () => loaded(-0.1) },
    { combo: "C", says: "next load case", run: nextCase },
    { combo: "W", says: "working of the break load", run: () => h.openWorking("breaks_at") },
    { combo: "P", says: "keep as variant", run: () => void h.pinNow(`Variant ${h.pinCount + 1}`) },
    { combo: "H", says: "history", run: h.openHistory },
    { combo: "L", says: "panel: lay-up", run: () => h.setPanel("layup") },
    { combo: "S", says: "panel: shape", run: () => h.setPanel("shape") },
    { combo: "F", says: "panel: loads", run: () => h.setPanel("load") },
    { combo: "G", says: "panel: targets", run: () => h.setPanel("wanted") },
  ];
}
