import { useMemo, useState } from "react";
import type { Estimate } from "../../../api/client";
import { scaled } from "../../../charts/scaled";

/** How many times the load is shown, how many times it may be, and the estimate at both. */
export function useLoad(estimate: Estimate | null) {
  const [wanted, setLoad] = useState(1);
  const most = Math.max(
    1.25,
    Math.min(1.25 * (estimate?.first.comes_at.typ ?? 1), 12),
    1.05 * Math.min(estimate?.failures[1]?.comes_at.typ ?? 0, 2.5),
  );
  const load = Math.min(wanted, most);
  const shown = useMemo(() => estimate && scaled(estimate, load), [estimate, load]);
  const farthest = useMemo(() => estimate && scaled(estimate, most), [estimate, most]);
  return { load, most, setLoad, shown, farthest };
}
