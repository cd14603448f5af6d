import { useQuery, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link, Route, Routes } from "react-router";
import { api, must, rememberSession, type Session } from "../api/client";
import { Bench } from "../places/bench/Bench";
import { CrashDesk } from "../places/crash/CrashDesk";
import { CrashList } from "../places/crash/CrashList";
import { Joints } from "../places/joints/Joints";
import mark from "../mark.svg";
import { PreferencesMenu } from "./PreferencesMenu";
import { WithPreferences } from "../forms/preferences";
import { SignIn } from "./SignIn";
import { ChooseWay } from "../places/shelf/ChooseWay";
import { Shelf } from "../places/shelf/Shelf";
import { Whole } from "../places/whole/Whole";

function Header({ session, children }: { session: Session; children?: ReactNode }) {
  const queries = useQueryClient();
  const signOut = async () => {
    await api.DELETE("/api/session");
    queries.clear();
    await queries.invalidateQueries();
  };
  return (
    <header className="flex min-h-14 flex-wrap items-center gap-x-6 gap-y-1 border-b border-ink px-5">
      <Link
        to="/"
        className="flex items-center gap-2 font-label text-lead font-bold"
        aria-label="Fletcher, to the shelf"
      >
        <img src={mark} alt="" className="w-8" style={{ filter: "var(--mark)" }} />
        Fletcher
      </Link>
      <div className="flex flex-1 items-center gap-4">{children}</div>
      <PreferencesMenu />
      <span className="text-small text-soft max-[900px]:hidden">
        {session.demo ? "demo account" : session.user}
      </span>
      {!session.demo && (
        <button type="button" className="key-button" onClick={() => void signOut()}>
          Sign out
        </button>
      )}
    </header>
  );
}

export function App() {
  const session = useQuery({
    queryKey: ["session"],
    queryFn: async () => rememberSession(await must(api.GET("/api/session"))),
  });
  if (session.isPending) return null;
  if (session.isError)
    return (
      <main className="p-8">
        <h1 className="text-title font-bold">Fletcher does not answer</h1>
        <p className="mt-2">Start it with ./fletcher demo, then reload this page.</p>
      </main>
    );
  if (!session.data.user) return <SignIn />;
  const header = (children?: ReactNode) => <Header session={session.data}>{children}</Header>;
  return (
    <WithPreferences session={session.data}>
      <Routes>
        <Route path="/" element={<Shelf header={header} />} />
        <Route path="/choose" element={<ChooseWay header={header} />} />
        <Route path="/joints" element={<Joints header={header} />} />
        <Route path="/crash" element={<CrashList header={header} />} />
        <Route path="/crash/:airframeId/:partId" element={<CrashDesk header={header} />} />
        <Route path="/airframe/:airframeId" element={<Whole header={header} />} />
        <Route path="/bench/:airframeId/:partId" element={<Bench header={header} />} />
        <Route
          path="*"
          element={
            <>
              {header()}
              <main className="p-8">
                <h1 className="text-title font-bold">There is nothing here</h1>
                <Link to="/" className="text-pick underline">
                  Back to the shelf
                </Link>
              </main>
            </>
          }
        />
      </Routes>
    </WithPreferences>
  );
}
