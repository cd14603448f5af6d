import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { accepted } from "../../api/changes";
import { api, Refused, type Airframe } from "../../api/client";
import { useSettled } from "../../forms/useSettled";
import { tagOf } from "../../words/tags";
import type { Press, Work } from "./bench";
import { USUAL, type Plan, type Shop } from "./shop";

/** While somebody is at a step, the plan is made anew so often: what runs late moves what comes after it. */
const RUNNING_MS = 60_000;

interface Made {
  plan: Plan;
  /** The presses that it knows. */
  knows: string[];
}

const shelf = (airframe: string, repair: string | null) =>
  `fletcher.plan.${airframe}${repair ? `.${repair}` : ""}`;

/** The plan of the whole build, or of one adopted repair. */
function planned(
  body: { document: Airframe; shop: Shop; work: Work },
  repair: string | null,
  signal: AbortSignal,
) {
  if (!repair) return api.POST("/api/studies/plan", { body, signal });
  const { shop, work } = body;
  return api.POST("/api/build/repair-plan", { body: { job_id: repair, shop, work }, signal });
}

function last(airframe: string, repair: string | null): Made | null {
  try {
    return JSON.parse(window.localStorage.getItem(shelf(airframe, repair)) ?? "null") as Made | null;
  } catch {
    return null;
  }
}

/** The plan of an airframe with what was done; the last one stays until the next is there, and without the server. */
export function usePlan(
  airframe: string,
  document: Airframe,
  shop: Shop,
  work: Work,
  ready: boolean,
  repair: string | null,
) {
  const body = useMemo(
    () => ({ document, shop: { ...shop, zone: USUAL.zone ?? "UTC" }, work }),
    [document, shop, work],
  );
  const asked = useSettled(body, 600);
  const answer = useQuery({
    queryKey: ["plan", repair, tagOf(asked)],
    queryFn: async ({ signal }) => ({
      plan: (await accepted(planned(asked, repair, signal)))!,
      knows: (asked.work.presses ?? []).map((p) => p.id),
    }),
    enabled: ready,
    retry: false,
    gcTime: 300_000,
    placeholderData: keepPreviousData,
    refetchInterval: (query) =>
      query.state.data?.plan.planned.some((p) => p.state === "running") ? RUNNING_MS : false,
  });
  // while something is impossible, or the server is away, the last plan stays
  const [made, keep] = useState<Made | null>(() => answer.data ?? last(airframe, repair));
  if (answer.data && answer.data !== made) keep(answer.data);
  useEffect(() => {
    try {
      if (made) window.localStorage.setItem(shelf(airframe, repair), JSON.stringify(made));
    } catch {
      // a full or blocked storage: the plan is read from the server again
    }
  }, [airframe, repair, made]);
  const fresh = useMemo<Press[]>(() => {
    const known = new Set(made?.knows ?? []);
    return (work.presses ?? []).filter((p) => !known.has(p.id));
  }, [made, work]);
  return {
    asked,
    made,
    fresh,
    fetching: answer.isFetching,
    problems: answer.error instanceof Refused ? answer.error.problems : [],
  };
}
