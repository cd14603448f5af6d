import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, must, type Layer, type Part, type Schemas } from "../api/client";
import { freshId } from "../forms/ids";
import { useSettled } from "../forms/useSettled";
import { tagOf } from "../words/tags";

export type Starter = Schemas["StarterOut"];

/** The lines that may be put into a part next, of sizes that fit it. */
export function useStarters(part: Part): Starter[] {
  const settled = useSettled(part, 250);
  const asked = useQuery({
    queryKey: ["starters", tagOf(settled)],
    queryFn: ({ signal }) => must(api.POST("/api/studies/starters", { body: { part: settled }, signal })),
    retry: false,
    gcTime: 60_000,
    placeholderData: keepPreviousData,
  });
  return asked.data ?? [];
}

/** A new line with an id of its own. */
export const named = (starter: Starter, part: Part): Layer => ({
  ...starter.layer,
  id: freshId(
    "line",
    part.layers.map((l) => l.id),
  ),
});
