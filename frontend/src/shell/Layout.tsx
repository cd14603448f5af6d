import { useQueryClient } from "@tanstack/react-query";
import { Suspense, useState, useSyncExternalStore } from "react";
import { Link, NavLink, Outlet, useLocation } from "react-router";
import { forgetBench } from "../api/benchShelf";
import { api, rememberSession, type Session } from "../api/client";
import { keys } from "../api/queries";
import { sessionLost } from "../api/session";
import { useShortcuts } from "../forms/keys";
import mark from "../mark.svg";
import { HeadSlot } from "../words/InHead";
import { Help } from "./Help";
import { PreferencesMenu } from "./PreferencesMenu";
import { SignInAgain } from "./SignIn";
import { Stumbled } from "./Stumbled";

const PLACES = [
  ["/", "Shelf"],
  ["/joints", "Joints"],
  ["/crash", "Crash desk"],
  ["/stockroom", "Stockroom"],
] as const;

/** The frame around every place: the way to the others, what the place itself says in the head, who is signed in. */
export function Layout({ session }: { session: Session }) {
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  const queries = useQueryClient();
  const { pathname } = useLocation();
  const [help, setHelp] = useState(false);
  const bench = pathname.startsWith("/bench"); // it has a help of its own, with all its keys
  useShortcuts(bench ? [] : [{ combo: "?", says: "help", run: () => setHelp(true) }]);
  const lost = useSyncExternalStore(sessionLost.subscribe, sessionLost.get);
  const signOut = async () => {
    queries.setQueryData(keys.session, { ...session, user: null });
    queries.removeQueries({ predicate: (q) => q.queryKey[0] !== keys.session[0] });
    const { data } = await api.DELETE("/api/session");
    forgetBench();
    if (data) queries.setQueryData(keys.session, rememberSession(data));
  };
  return (
    <HeadSlot value={slot}>
      <div className="flex min-h-dvh flex-col min-[1100px]:has-[[data-fills]]:h-dvh">
        <a
          href="#content"
          className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-raised focus:px-4 focus:py-3"
          onClick={(e) => {
            e.preventDefault();
            const main = document.querySelector("main");
            main?.setAttribute("tabindex", "-1");
            main?.focus();
          }}
        >
          Skip to content
        </a>
        <header className="flex min-h-14 flex-wrap items-center gap-x-5 gap-y-1 border-b border-ink px-5 max-[1099px]:py-1 max-sm:gap-x-2 max-sm:px-3">
          <Link
            to="/"
            className="flex items-center gap-2 font-label text-lead font-bold"
            aria-label="Fletcher home: go to the Shelf"
          >
            <img src={mark} alt="" className="w-8" style={{ filter: "var(--mark)" }} />
            <span className="max-[1279px]:hidden">Fletcher</span>
          </Link>
          <nav aria-label="Places" className="flex gap-x-1">
            {PLACES.map(([to, label]) => (
              <NavLink
                key={to}
                to={to}
                end={to === "/"}
                className="label-type flex min-h-11 items-center border-y-[3px] border-transparent px-2 hover:text-pick aria-[current=page]:border-b-pick aria-[current=page]:text-pick"
              >
                {label}
              </NavLink>
            ))}
          </nav>
          <div
            ref={setSlot}
            className="flex min-w-0 flex-1 items-center gap-4 max-[1099px]:order-last max-[1099px]:basis-full max-[1099px]:flex-wrap max-[1099px]:gap-y-1 max-[1099px]:empty:hidden"
          />
          <span className="min-[1100px]:hidden flex-1" />
          {!bench && (
            <button type="button" className="key-button" aria-label="Help" onClick={() => setHelp(true)}>
              ?
            </button>
          )}
          <PreferencesMenu account={!session.demo} />
          <span className="text-small text-soft max-[1279px]:hidden">
            {session.demo ? "Demo account" : session.user}
          </span>
          {!session.demo && (
            <button type="button" className="key-button" onClick={() => void signOut()}>
              Sign out
            </button>
          )}
        </header>
        <Stumbled key={pathname}>
          <Suspense fallback={<p className="p-6 text-soft">Opening…</p>}>
            <Outlet />
          </Suspense>
        </Stumbled>
      </div>
      {help && <Help path={pathname} onClose={() => setHelp(false)} />}
      {lost && session.user && <SignInAgain user={session.user} />}
    </HeadSlot>
  );
}
