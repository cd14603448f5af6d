import { createContext, useContext, type ReactNode } from "react";
import { createPortal } from "react-dom";

/** Where in the head of the page a place writes; null until it is there. */
export const HeadSlot = createContext<HTMLElement | null>(null);

/** What a place says in the head of the page. */
export function InHead({ children }: { children: ReactNode }) {
  const slot = useContext(HeadSlot);
  return slot && createPortal(children, slot);
}
