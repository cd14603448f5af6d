import type { ReactNode } from "react";

/** A figure in a row of a ruled list: its name, the figure large, and what belongs to it small below. */
export function Figure({ label, children }: { label: ReactNode; children: ReactNode }) {
  return (
    <div className="border-r border-rule px-4 py-2 last:border-r-0">
      <dt className="label-type text-note text-soft">{label}</dt>
      <dd className="figure-type text-title leading-tight">{children}</dd>
    </div>
  );
}

/** What belongs to a figure: its range, of what it is. */
export function Small({ children }: { children: ReactNode }) {
  return <span className="block font-sans text-note font-normal text-soft">{children}</span>;
}
