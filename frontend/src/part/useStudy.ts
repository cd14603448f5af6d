import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Airframe } from "../api/client";
import { tagOf } from "../words/tags";
import { useSettled } from "../forms/useSettled";

/** What a study is about: the document as it stands, one part, one load case. */
export interface Subject {
  document: Airframe;
  part_id: string;
  case_id: string;
}

/** Studies under way, one of a name at a time; one that is wanted no more is given up on both sides. */
const running = new Map<string, Promise<void>>();

/** A dear study that nobody has asked for waits until the drawing was at rest so long, ms. */
export const AT_LEISURE = 3000;

/**
 * A study of the part as it stands, asked when the drawing has rested (after a moment, or `rest` ms, also at first);
 * the last answer stays until the next.
 */
export function useStudy<T>(
  name: string,
  subject: Subject,
  ask: (body: Subject, signal: AbortSignal) => Promise<{ data?: T }>,
  enabled = true,
  rest = 0,
) {
  const settled = useSettled(subject.document, Math.max(800, rest));
  const [rested, setRested] = useState(rest === 0);
  useEffect(() => {
    const timer = setTimeout(() => setRested(true), rest);
    return () => clearTimeout(timer);
  }, [rest]);
  const body = { ...subject, document: settled };
  return useQuery({
    queryKey: [name, tagOf(settled), subject.part_id, subject.case_id],
    queryFn: async ({ signal }) => {
      while (running.has(name)) await running.get(name);
      signal.throwIfAborted(); // a newer state of the document is asked for by now
      const asked = ask(body, signal);
      const done = asked.then(
        () => undefined,
        () => undefined,
      );
      running.set(name, done);
      void done.then(() => running.delete(name));
      const { data } = await asked;
      if (data === undefined) throw new Error("refused");
      return data;
    },
    enabled: enabled && rested,
    retry: false,
    gcTime: 60_000,
    placeholderData: keepPreviousData,
  });
}
