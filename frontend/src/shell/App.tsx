import { useQuery } from "@tanstack/react-query";
import { lazy } from "react";
import { Route, Routes } from "react-router";
import { atBench, keptForBench } from "../api/benchShelf";
import { api, must, rememberSession, type Session } from "../api/client";
import { WithPreferences } from "../forms/preferences";
import { Join } from "./Join";
import { Layout } from "./Layout";
import { NotHere } from "../words/NotHere";
import { SignIn } from "./SignIn";
import { Shelf } from "../places/shelf/Shelf";

// every place but the Shelf is read when it is first opened
const Bench = lazy(async () => ({ default: (await import("../places/bench/Bench")).Bench }));
const CrashDesk = lazy(async () => ({ default: (await import("../places/crash/CrashDesk")).CrashDesk }));
const CrashList = lazy(async () => ({ default: (await import("../places/crash/CrashList")).CrashList }));
const Joints = lazy(async () => ({ default: (await import("../places/joints/Joints")).Joints }));
const ChooseWay = lazy(async () => ({ default: (await import("../places/shelf/ChooseWay")).ChooseWay }));
const NewAirframe = lazy(async () => ({
  default: (await import("../places/shelf/NewAirframe")).NewAirframe,
}));
const Balance = lazy(async () => ({ default: (await import("../places/balance/Balance")).Balance }));
const Stockroom = lazy(async () => ({ default: (await import("../places/stock/Stockroom")).Stockroom }));
const Run = lazy(async () => ({ default: (await import("../places/build/Run")).Run }));
const Trace = lazy(async () => ({ default: (await import("../places/build/Trace")).Trace }));
const Build = lazy(async () => ({ default: (await import("../places/build/Build")).Build }));
const Log = lazy(async () => ({ default: (await import("../places/log/Log")).Log }));
const Whole = lazy(async () => ({ default: (await import("../places/whole/Whole")).Whole }));

export function App() {
  const session = useQuery({
    queryKey: ["session"],
    queryFn: async () => {
      try {
        return rememberSession(await must(api.GET("/api/session")));
      } catch (away) {
        const kept = atBench(window.location.pathname) ? keptForBench<Session>("session") : null;
        if (!kept) throw away;
        return rememberSession({ ...kept, csrf: "" });
      }
    },
  });
  if (session.isPending) return null;
  if (session.isError)
    return (
      <main className="p-8">
        <h1 className="text-title font-bold">Fletcher is not running</h1>
        <p className="mt-2">Start it with “./fletcher demo”, then reload this page.</p>
      </main>
    );
  if (!session.data.user)
    return (
      <Routes>
        <Route path="/join/:token" element={<Join />} />
        <Route path="*" element={<SignIn />} />
      </Routes>
    );
  return (
    <WithPreferences session={session.data}>
      <Routes>
        <Route element={<Layout session={session.data} />}>
          <Route path="/" element={<Shelf />} />
          <Route path="/choose" element={<ChooseWay />} />
          <Route path="/new" element={<NewAirframe />} />
          <Route path="/joints" element={<Joints />} />
          <Route path="/stockroom" element={<Stockroom />} />
          <Route path="/crash" element={<CrashList />} />
          <Route path="/crash/:airframeId/:partId" element={<CrashDesk />} />
          <Route path="/airframe/:airframeId" element={<Whole />} />
          <Route path="/balance/:airframeId" element={<Balance />} />
          <Route path="/build/:airframeId" element={<Build />} />
          <Route path="/build/:airframeId/run" element={<Run />} />
          <Route path="/build/:airframeId/trace" element={<Trace />} />
          <Route path="/log/:airframeId" element={<Log />} />
          <Route path="/bench/:airframeId/:partId" element={<Bench />} />
          <Route path="*" element={<NotHere says="Page not found" />} />
        </Route>
      </Routes>
    </WithPreferences>
  );
}
