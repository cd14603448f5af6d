import { Dialog } from "radix-ui";
import type { Shortcut } from "./keys";

const EVERYWHERE: [string, string][] = [
  ["Tab", "next control; Shift+Tab for previous"],
  ["↑ ↓", "in a field: one step up or down; with Shift, ten"],
  ["← → ↑ ↓", "on a drawing handle: move it; with Shift, ten times as far"],
  ["Enter, Space", "press the focused control"],
  ["Esc", "close, or cancel typing"],
];

/** All keys of a place. */
export function KeyMap(props: {
  place: string;
  shortcuts: Shortcut[];
  /** Starts the tour of the place, where it has one. */
  tour?: () => void;
  onClose: () => void;
}) {
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
            <Dialog.Title className="text-title font-bold">Keyboard shortcuts: {props.place}</Dialog.Title>
            <span className="flex gap-2">
              {props.tour && (
                <Dialog.Close className="key-button" onClick={props.tour}>
                  Take the tour
                </Dialog.Close>
              )}
              <Dialog.Close className="key-button">Close</Dialog.Close>
            </span>
          </div>
          <Dialog.Description className="mt-1 text-soft">
            You can turn single-key shortcuts off under “Units, colours and keys”.
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
