import { useEffect, useMemo, useRef, useState } from "react";
import { backOff, whenOnline } from "../api/backOff";
import { whenSignedIn } from "../api/session";
import { api, problemsOf, type Airframe, type Estimate, type Problem } from "../api/client";

export interface Answered {
  /** The last estimate of a possible document; stays while the draft is impossible. */
  estimate: Estimate | null;
  problems: Problem[];
  /** Why there is no answer, as a phase of the draft; null where there is one. */
  away: "offline" | "busy" | "fault" | "signedOut" | null;
  /** Whether a fuller or newer answer is on its way. */
  busy: boolean;
}

interface Question {
  document: Airframe;
  part_id: string;
  case_id: string;
  quick: boolean;
  /** What was asked, in full: to know its answer by. */
  text: string;
}

const REST_MS = 300;

class Unanswered extends Error {
  constructor(readonly status: number) {
    super(`${status}`);
  }
}

const BY_STATUS: Record<number, "busy" | "signedOut"> = { 401: "signedOut", 429: "busy", 503: "busy" };

/**
 * The live estimate: one question on its way at a time, and always the newest next. While things change, fewer samples
 * stand behind the bands (the typical values are the same); the full answer follows when they rest.
 */
export function useEstimate(document: Airframe, part_id: string, case_id: string): Answered {
  const [answered, setAnswered] = useState<Omit<Answered, "busy"> & { to: string }>({
    estimate: null,
    problems: [],
    away: null,
    to: "",
  });
  const text = useMemo(() => JSON.stringify({ document, part_id, case_id }), [document, part_id, case_id]);
  const waiting = useRef<Question | null>(null);
  const asking = useRef(false);
  const last = useRef("");

  const retry = useRef<ReturnType<typeof setTimeout>>(undefined);
  const rest = useRef<ReturnType<typeof setTimeout>>(undefined);
  const tries = useRef(0);
  const again = useRef(() => {});

  useEffect(() => {
    const stops = [whenOnline, whenSignedIn].map((when) => when(() => again.current()));
    return () => {
      for (const stop of stops) stop();
      clearTimeout(retry.current);
      clearTimeout(rest.current);
    };
  }, []);

  useEffect(() => {
    const ask = async () => {
      if (asking.current) return;
      asking.current = true;
      while (waiting.current) {
        const question = waiting.current;
        const { document, part_id, case_id, quick } = question;
        waiting.current = null;
        try {
          const { data, error, response } = await api.POST("/api/studies/estimate", {
            body: { document, part_id, case_id, quick },
          });
          if (data === undefined && response.status !== 422) throw new Unanswered(response.status);
          tries.current = 0;
          const told = data as Estimate | undefined;
          if (told)
            setAnswered((old) => ({
              // a quick answer leaves out what happens when the part is snapped by hand: the last word on it stays
              estimate: question.quick ? { ...told, snaps: old.estimate?.snaps ?? [] } : told,
              problems: [],
              away: null,
              to: question.quick ? "" : question.text,
            }));
          else
            setAnswered((old) => ({
              ...old,
              problems: problemsOf(error),
              away: null,
              to: question.text,
            }));
        } catch (why) {
          const away = why instanceof Unanswered ? (BY_STATUS[why.status] ?? "fault") : "offline";
          setAnswered((old) => ({ ...old, away }));
          waiting.current ??= question;
          clearTimeout(retry.current);
          if (away === "signedOut") break; // asked again once somebody has signed in
          retry.current = setTimeout(() => void ask(), backOff(tries.current++));
          break;
        }
      }
      asking.current = false;
    };
    again.current = () => void ask();
    // storing a draft hands back an equal document: nothing new to ask
    const question = { document, part_id, case_id, text };
    if (text === last.current) return;
    const first = last.current === "";
    last.current = text;
    waiting.current = { ...question, quick: !first };
    void ask();
    if (first) return;
    clearTimeout(rest.current);
    rest.current = setTimeout(() => {
      waiting.current = { ...question, quick: false };
      void ask();
    }, REST_MS);
  }, [document, part_id, case_id, text]);

  return { ...answered, busy: answered.to !== text };
}
