import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { whenOnline } from "../../api/backOff";
import { accepted, readAnew, troubleOf } from "../../api/changes";
import { api, must, Refused, type Schemas } from "../../api/client";
import { keys } from "../../api/queries";
import { ownUuid } from "../../forms/ids";
import type { Press, Work } from "./bench";

export type Change = NonNullable<Work["changes"]>[number];
type WorkOut = Schemas["WorkOut"];

/** So often presses that the server has not taken are sent again. */
const AGAIN_MS = 10_000;
const NONE: Press[] = [];

const shelf = (airframe: string) => `fletcher.presses.${airframe}`;

function waiting(airframe: string): Press[] {
  try {
    return JSON.parse(window.localStorage.getItem(shelf(airframe)) ?? "[]") as Press[];
  } catch {
    return NONE;
  }
}

function keep(airframe: string, presses: Press[]) {
  try {
    window.localStorage.setItem(shelf(airframe), JSON.stringify(presses));
  } catch {
    // a full or blocked storage stops nobody: the presses stay in the page
  }
}

/**
 * The work of an airframe: what the server has, and what was pressed here and waits for it. A press is kept on the
 * device first and sent until the server has it; the server takes each once.
 */
export function useWork(airframe: string) {
  const queries = useQueryClient();
  const key = keys.work(airframe);
  const stored = useQuery({
    queryKey: key,
    queryFn: () => must(api.GET("/api/build/{airframe_id}", { params: { path: { airframe_id: airframe } } })),
    refetchInterval: 15_000,
  });
  const [unsent, setUnsent] = useState<Press[]>(() => waiting(airframe));
  const [trouble, setTrouble] = useState<string | null>(null);
  const latest = useRef(unsent);
  const set = (presses: Press[]) => {
    latest.current = presses;
    keep(airframe, presses);
    setUnsent(presses);
  };
  const take = (answer: WorkOut) => queries.setQueryData(key, answer);
  const send = async () => {
    const now = latest.current.slice(0, 200);
    if (now.length === 0) return;
    try {
      const answer = await accepted(
        api.POST("/api/build/{airframe_id}/presses", {
          params: { path: { airframe_id: airframe } },
          body: { presses: now },
        }),
      );
      const sent = new Set(now.map((p) => p.id));
      if (answer) take(answer);
      // a step that is done takes what it is cut from
      if (now.some((p) => p.what === "done" || p.what === "undone"))
        void readAnew(queries, keys.own, keys.cuts(airframe));
      if (now.some((p) => p.key?.startsWith("repair/"))) void readAnew(queries, keys.jobs(airframe));
      set(latest.current.filter((p) => !sent.has(p.id)));
      setTrouble(null);
    } catch (refused) {
      if (!(refused instanceof Refused)) throw refused;
      setTrouble(refused.problems[0]!.message);
    }
  };
  const sending = useRef(send);
  useEffect(() => {
    sending.current = send;
  });
  useEffect(() => {
    const again = () => void sending.current();
    again();
    const stop = whenOnline(again);
    const timer = setInterval(again, AGAIN_MS);
    return () => {
      stop();
      clearInterval(timer);
    };
  }, []);
  const press = (what: Omit<Press, "id" | "at">) => {
    set([...latest.current, { ...what, id: ownUuid(), at: new Date().toISOString() }]);
    void send();
  };
  const change = async (changes: Change[]) => {
    const said = await troubleOf(
      accepted(
        api.PUT("/api/build/{airframe_id}/changes", {
          params: { path: { airframe_id: airframe } },
          body: { revision: stored.data?.revision ?? 0, changes },
        }),
      ).then((answer) => answer && take(answer)),
    );
    setTrouble(said);
    if (said) await readAnew(queries, key);
    return said;
  };
  const work = useMemo<Work>(() => {
    const kept = stored.data?.work;
    const known = new Set((kept?.presses ?? NONE).map((p) => p.id));
    return {
      changes: kept?.changes ?? [],
      presses: [...(kept?.presses ?? NONE), ...unsent.filter((p) => !known.has(p.id))],
    };
  }, [stored.data, unsent]);
  return {
    work,
    ready: stored.isSuccess || unsent.length > 0,
    unsent: unsent.length,
    trouble,
    press,
    change,
  };
}

export type Bench = ReturnType<typeof useWork>;
