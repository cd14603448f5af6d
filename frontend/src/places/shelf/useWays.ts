import { useEffect, useState } from "react";
import { Refused, type Problem, type Schemas } from "../../api/client";
import { linesOf, posting } from "../../api/stream";
import { useSettled } from "../../forms/useSettled";

export type Way = Schemas["Choice"];
export type WayWish = Schemas["WishIn"];

interface Found {
  /** The wish that these are of. */
  of: string;
  ways: Way[];
  problems: Problem[];
  done: boolean;
}

/** Every construction for a wish: at once as usually built, then one after another as they are sized; with a new wish it
 * starts anew. Null: not known yet. */
export function useWays(wish: WayWish | null) {
  const asked = wish ? JSON.stringify(wish) : "";
  const settled = useSettled(asked, 300);
  const [found, setFound] = useState<Found>({ of: "", ways: [], problems: [], done: true });
  useEffect(() => {
    if (!settled) return;
    const control = new AbortController();
    void (async () => {
      let now: Found = { of: settled, ways: [], problems: [], done: false };
      const tell = (change: Partial<Found>) => {
        now = { ...now, ...change };
        if (!control.signal.aborted) setFound(now);
      };
      tell({});
      try {
        for await (const { choice } of linesOf<{ choice: Way }>(
          "/api/studies/choose",
          posting(JSON.parse(settled), control.signal),
        ))
          if (choice) tell({ ways: [...now.ways.filter((w) => w.key !== choice.key), choice] });
        tell({ ways: now.ways.filter((w) => w.settled), done: true });
      } catch (error) {
        if (control.signal.aborted) return;
        if (!(error instanceof Refused)) throw error;
        tell({ problems: error.problems, done: true });
      }
    })();
    return () => control.abort();
  }, [settled]);
  /** Rows of another wish than the one that stands there cannot be opened. */
  return { ...found, outdated: asked !== settled || found.of !== settled };
}
