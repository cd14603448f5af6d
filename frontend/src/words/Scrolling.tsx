import type { ReactNode } from "react";

interface Props {
  /** What scrolls, for those who hear it. */
  label: string;
  className?: string;
  children: ReactNode;
}

/** Something that may be wider than its place: it scrolls alone, and the keyboard reaches it. */
export function Scrolling({ label, className = "", children }: Props) {
  return (
    <div tabIndex={0} role="group" aria-label={label} className={`overflow-x-auto ${className}`}>
      {children}
    </div>
  );
}
