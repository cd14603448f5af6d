import { useQueryClient } from "@tanstack/react-query";
import { createContext, useContext, useLayoutEffect, useMemo, type ReactNode } from "react";
import { api, readIn, type Session } from "../api/client";
import { keys } from "../api/queries";
import { setUnits } from "./units";

export type Preferences = Session["preferences"];

interface Kept {
  preferences: Preferences;
  change: (next: Partial<Preferences>) => void;
}

const Context = createContext<Kept | null>(null);

/** What the person prefers, and how to change it. */
export function usePreferences(): Kept {
  const kept = useContext(Context);
  if (!kept) throw new Error("outside of <WithPreferences>");
  return kept;
}

/** Applies units and colours, and keeps them with the account. A change of units draws everything anew. */
export function WithPreferences({ session, children }: { session: Session; children: ReactNode }) {
  const queries = useQueryClient();
  const { preferences } = session;
  setUnits(preferences.units);
  readIn(preferences.units);
  useLayoutEffect(() => {
    window.document.documentElement.dataset.colours = preferences.colours;
  }, [preferences.colours]);
  const kept = useMemo<Kept>(
    () => ({
      preferences,
      change: (next) => {
        const wanted = { ...preferences, ...next };
        readIn(wanted.units);
        // what was answered holds sentences in the old units
        if (wanted.units !== preferences.units)
          queries.removeQueries({ predicate: (query) => query.queryKey[0] !== keys.session[0] });
        queries.setQueryData<Session>(keys.session, (old) => old && { ...old, preferences: wanted });
        void api.PUT("/api/preferences", { body: wanted });
      },
    }),
    [preferences, queries],
  );
  return (
    <Context.Provider value={kept} key={preferences.units}>
      {children}
    </Context.Provider>
  );
}
