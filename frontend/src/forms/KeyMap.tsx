import { Dialog } from "radix-ui";
import type { Shortcut } from "./keys";

const EVERYWHERE: [string, string][] = [
  ["Tab", "to the next thing; Shift+Tab back"],
  ["↑ ↓", "in a field: a step more or less; with Shift ten steps"],
  ["← → ↑ ↓", "on a grip of the drawing: move it; with Shift ten times as far"],
  ["Enter, Space", "press what has the focus"],
  ["Esc", "close, or take back what is being typed"],
];

/** All keys of a place. */
export function KeyMap(props: { place: string; shortcuts: Shortcut[]; onClose: () => void }) {
  const rows: [string, string][] = [
    ...props.shortcuts.map((s): [string, string] => [s.combo, s.says]),
    ...EVERYWHERE,
  ];
  return (
    <Dialog.Root open onOpenChange={(open) => !open && props.onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content className="fixed top-1/2 left-1/2 z-50 max-h-[92dvh] w-[min(46rem,96vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-sheet p-7">
          <div className="flex items-start justify-between gap-4">
            <Dialog.Title className="text-title font-bold">Keys on the {props.place}</Dialog.Title>
            <Dialog.Close className="key-button">Close</Dialog.Close>
          </div>
          <Dialog.Description className="mt-1 text-soft">
            Single keys can be switched off under units, colours and keys.
          </Dialog.Description>
          <dl className="mt-4 columns-2 gap-8 max-sm:columns-1">
            {rows.map(([combo, says]) => (
              <div
                key={combo + says}
                className="grid break-inside-avoid grid-cols-[6.5rem_1fr] gap-3 border-t border-rule py-1.5 text-body"
              >
                <dt className="figure-type">{combo}</dt>
                <dd>{says}</dd>
              </div>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
