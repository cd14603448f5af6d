import { Popover } from "radix-ui";
import type { ReactNode } from "react";
import { useGlossary } from "../api/queries";

/** A word of the trade that explains itself in place. */
export function Word({ k, children }: { k: string; children: ReactNode }) {
  const words = useGlossary();
  const word = words.data?.find((w) => w.key === k);
  if (!word) return children;
  return (
    <Popover.Root>
      <Popover.Trigger
        className="word cursor-help text-left text-inherit"
        aria-label={`${typeof children === "string" ? children : word.term}: what does this mean?`}
      >
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-w-80 border border-ink bg-raised px-4 py-3 text-body leading-snug"
        >
          <p className="font-label font-semibold">{word.term}</p>
          <p className="mt-1">{word.plain}</p>
          {word.more && <p className="mt-1.5 text-soft">{word.more}</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
