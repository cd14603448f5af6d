import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  title: string;
  says?: ReactNode;
  /** How wide, in rem. */
  wide?: number;
  /** Called to close it; a dialog without it stays until it is answered. */
  onClose?: () => void;
  children: ReactNode;
}

const prevent = (e: Event) => e.preventDefault();

/** A dialog over the page. */
export function Modal({ title, says, wide = 34, onClose, children }: Props) {
  const stays = !onClose && { onEscapeKeyDown: prevent, onPointerDownOutside: prevent };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose?.()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content
          {...(!says && { "aria-describedby": undefined })}
          {...stays}
          style={{ width: `min(${wide}rem, 94vw)` }}
          className="fixed top-1/2 left-1/2 z-50 max-h-[92dvh] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-sheet p-7"
        >
          <Dialog.Title className="text-title font-bold">{title}</Dialog.Title>
          {says && <Dialog.Description className="mt-1">{says}</Dialog.Description>}
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
