import { useCallback, useEffect, useRef, useState } from "react";

import { Refused, type Problem, type Schemas } from "../../api/client";
import { linesOf, posting } from "../../api/stream";
import type { Subject } from "../../part/useStudy";

export interface MendingState {
  progress: Schemas["Progress"] | null;
  answer: Schemas["Mending"] | null;
  problems: Problem[];
  running: boolean;
}

type Steps = { progress: Schemas["Progress"]; answer: Schemas["Mending"] };

/** The search for repairs: starts anew with every change, tells how far it is, and can be stopped. The last answer stays
 * until the next one is there. */
export function useMending(subject: Subject, wish: Schemas["MendWish"], enabled: boolean) {
  const [state, setState] = useState<MendingState>({
    progress: null,
    answer: null,
    problems: [],
    running: enabled,
  });
  const running = useRef<AbortController | null>(null);
  const stop = useCallback(() => {
    running.current?.abort();
    setState((s) => ({ ...s, running: false, progress: null }));
  }, []);
  const body = JSON.stringify({ ...subject, wish });
  useEffect(() => {
    if (!enabled) return;
    const control = new AbortController();
    running.current = control;
    const mine = (update: Partial<MendingState>) => {
      if (!control.signal.aborted) setState((s) => ({ ...s, ...update }));
    };
    void (async () => {
      mine({ running: true, progress: null, problems: [] });
      try {
        for await (const line of linesOf<Steps>(
          "/api/crash/mend",
          posting(JSON.parse(body), control.signal),
        )) {
          if (line.progress) mine({ progress: line.progress });
          if (line.answer) mine({ answer: line.answer, progress: null });
        }
        mine({ running: false });
      } catch (error) {
        const told = error instanceof Refused ? error.problems : [];
        mine({ running: false, answer: null, problems: told });
      }
    })();
    return () => control.abort();
  }, [body, enabled]);
  return { ...state, stop };
}
