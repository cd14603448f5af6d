import { useCallback, useEffect, useRef, useState } from "react";
import { send, type Problem, type Schemas } from "../../api/client";
import type { Subject } from "../../part/useStudy";

export interface MendingState {
  progress: Schemas["Progress"] | null;
  answer: Schemas["Mending"] | null;
  problems: Problem[];
  running: boolean;
}

type Line = { progress?: Schemas["Progress"]; answer?: Schemas["Mending"]; problems?: Problem[] };

/** Read a stream line by line until it ends or is stopped. */
async function* linesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<Line> {
  const reader = body.getReader();
  const decoder = new TextDecoder();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (rest + decoder.decode(value, { stream: true })).split("\n");
    rest = lines.pop()!;
    for (const line of lines) if (line) yield JSON.parse(line) as Line;
  }
}

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
        const response = await send("/api/crash/mend", {
          method: "POST",
          headers: { "Content-Type": "application/json" },
          body,
          signal: control.signal,
        });
        if (!response.ok || !response.body) {
          const told = (await response.json()) as { problems?: Problem[] };
          mine({ running: false, answer: null, problems: told.problems ?? [] });
          return;
        }
        for await (const line of linesOf(response.body)) {
          if (line.progress) mine({ progress: line.progress });
          if (line.answer) mine({ answer: line.answer, progress: null });
          if (line.problems) mine({ problems: line.problems, answer: null });
        }
        mine({ running: false });
      } catch {
        mine({
          running: false,
          problems: [
            {
              path: "",
              message: "No answer from the server. Check that Fletcher is running, then try again.",
            },
          ],
        });
      }
    })();
    return () => control.abort();
  }, [body, enabled]);
  return { ...state, stop };
}
