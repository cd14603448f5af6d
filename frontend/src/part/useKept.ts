import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { whenOnline } from "../api/backOff";
import { api, must, type AirframeOut } from "../api/client";
import { whenSignedIn } from "../api/session";
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

/** So often the server is asked whether another window has changed the airframe, while the page is seen. */
const LISTEN_MS = 3000;

const NO_SHELF = { getItem: () => null, setItem: () => {}, removeItem: () => {} };

/** The browser's storage; nothing where it is blocked altogether. */
function shelf(): Pick<Storage, "getItem" | "setItem" | "removeItem"> {
  try {
    return window.localStorage;
  } catch {
    return NO_SHELF;
  }
}

/** The draft of an airframe while a place is open on it, kept when the place is left. */
export function useKept(state: AirframeOut) {
  const keeper = useMemo(() => new Keeper(state.id, state, serverStore, shelf()), [state]);
  const draft = useSyncExternalStore(keeper.subscribe, keeper.get);
  useEffect(() => {
    const onLeave = () => void keeper.flush();
    const stops = [whenOnline(onLeave), whenSignedIn(onLeave)];
    const listen = () => {
      if (!window.document.hidden) void keeper.listen();
    };
    const listening = setInterval(listen, LISTEN_MS);
    window.document.addEventListener("visibilitychange", listen);
    window.addEventListener("pagehide", onLeave);
    return () => {
      for (const stop of stops) stop();
      clearInterval(listening);
      window.document.removeEventListener("visibilitychange", listen);
      window.removeEventListener("pagehide", onLeave);
      void keeper.flush();
    };
  }, [keeper]);
  return { keeper, draft };
}
