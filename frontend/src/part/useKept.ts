import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { api, must, type AirframeOut } from "../api/client";
import { serverStore } from "./store";
import { Keeper } from "./keeper";

/** An airframe as it is stored now: read anew whenever a place is opened on it, for another place may have changed it. */
export function useStored(id: string) {
  const [opened] = useState(() => ++openings);
  return useQuery({
    queryKey: ["airframe", id, opened],
    queryFn: () => must(api.GET("/api/airframes/{airframe_id}", { params: { path: { airframe_id: id } } })),
    gcTime: 0,
  });
}

let openings = 0;

/** The draft of an airframe while a place is open on it, kept when the place is left. */
export function useKept(state: AirframeOut) {
  const keeper = useMemo(() => new Keeper(state.id, state, serverStore, window.localStorage), [state]);
  const draft = useSyncExternalStore(keeper.subscribe, keeper.get);
  useEffect(() => {
    const onLeave = () => void keeper.flush();
    window.addEventListener("pagehide", onLeave);
    return () => {
      window.removeEventListener("pagehide", onLeave);
      void keeper.flush();
    };
  }, [keeper]);
  return { keeper, draft };
}
