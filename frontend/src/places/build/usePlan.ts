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

const shelf = (airframe: string) => `fletcher.plan.${airframe}`;

function last(airframe: string): Made | null {
  try {
    return JSON.parse(window.localStorage.getItem(shelf(airframe)) ?? "null") as Made | null;
  } catch {
    return null;
  }
}

/** The plan of an airframe with what was done; the last one stays until the next is there, and without the server. */
export function usePlan(airframe: string, document: Airframe, shop: Shop, work: Work, ready: boolean) {
  const body = useMemo(
    () => ({ document, shop: { ...shop, zone: USUAL.zone ?? "UTC" }, work }),
    [document, shop, work],
  );
  const asked = useSettled(body, 600);
  const answer = useQuery({
    queryKey: ["plan", tagOf(asked)],
    queryFn: async ({ signal }) => ({
      plan: (await accepted(api.POST("/api/studies/plan", { body: asked, signal })))!,
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
  const [made, keep] = useState<Made | null>(() => answer.data ?? last(airframe));
  if (answer.data && answer.data !== made) keep(answer.data);
  useEffect(() => {
    try {
      if (made) window.localStorage.setItem(shelf(airframe), JSON.stringify(made));
    } catch {
      // a full or blocked storage: the plan is read from the server again
    }
  }, [airframe, made]);
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
