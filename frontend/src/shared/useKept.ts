import { useEffect, useMemo, useSyncExternalStore } from "react";
import type { AirframeOut } from "../api/client";
import { serverStore } from "./store";
import { Keeper } from "./keeper";

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
