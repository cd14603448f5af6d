/** What the page reads from the server, one hook and one key each. */

import { useInfiniteQuery, useQuery, useQueryClient, type QueryKey } from "@tanstack/react-query";
import { api, must, type Schemas } from "./client";
import { linesOf } from "./stream";

export const keys = {
  session: ["session"],
  catalogue: ["catalogue"],
  constructions: ["constructions"],
  caseKinds: ["case-kinds"],
  glossary: ["glossary"],
  slipKinds: ["slips"],
  fieldBox: ["field-box"],
  schools: ["schools"],
  shelf: ["airframes"],
  standings: ["standings"],
  airframeTypes: ["airframe-types"],
  damaged: ["damaged"],
  bin: ["bin"],
  storage: ["storage"],
  coupons: ["coupons"],
  trials: ["trials"],
  instruments: ["instruments"],
  glue: ["glue"],
  own: ["own"],
  uses: ["uses"],
  foamTests: ["foam-tests"],
  cuts: (airframe: string) => ["cuts", airframe],
  work: (airframe: string) => ["work", airframe],
  jobs: (airframe: string) => ["jobs", airframe],
  log: (airframe: string) => ["log", airframe],
  pictures: (airframe: string) => ["pictures", airframe],
  candidates: (airframe: string) => ["candidates", airframe],
  pins: (airframe: string) => ["pins", airframe],
} as const;

/** A long list: the pages that were asked for so far, each told by the last row of the one before. */
function usePages<Page extends { more: boolean }, Row extends { id: string }>(
  queryKey: QueryKey,
  read: (before: string | undefined) => Promise<Page>,
  rowsOf: (page: Page) => Row[],
) {
  const query = useInfiniteQuery({
    queryKey,
    queryFn: ({ pageParam }) => read(pageParam),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => (last.more ? rowsOf(last).at(-1)?.id : undefined),
    staleTime: 0,
  });
  const pages = query.data?.pages;
  return {
    first: pages?.[0],
    rows: pages?.flatMap(rowsOf),
    more: query.hasNextPage,
    fetching: query.isFetchingNextPage,
    readMore: () => void query.fetchNextPage(),
  };
}

/** The materials: the same for the Bench and for who reads ahead for it. */
export const catalogueQuery = {
  queryKey: keys.catalogue,
  queryFn: () => must(api.GET("/api/stock/catalogue")),
};

export const useCatalogue = () => useQuery(catalogueQuery);

export const useConstructions = () =>
  useQuery({ queryKey: keys.constructions, queryFn: () => must(api.GET("/api/stock/constructions")) });

export const useCaseKinds = () =>
  useQuery({ queryKey: keys.caseKinds, queryFn: () => must(api.GET("/api/stock/case-kinds")) });

export const useGlossary = () =>
  useQuery({ queryKey: keys.glossary, queryFn: () => must(api.GET("/api/stock/glossary")) });

export const useSlipKinds = () =>
  useQuery({ queryKey: keys.slipKinds, queryFn: () => must(api.GET("/api/crash/slips")) });

export const useUsualBox = () =>
  useQuery({ queryKey: keys.fieldBox, queryFn: () => must(api.GET("/api/crash/field-box")) });

export const useSchools = () =>
  useQuery({ queryKey: keys.schools, queryFn: () => must(api.GET("/api/joints/schools")) });

/** All airframes; read anew wherever it is opened, for any place may have changed one. */
export const useShelf = () =>
  useQuery({ queryKey: keys.shelf, queryFn: () => must(api.GET("/api/airframes")), staleTime: 0 });

export type Standings = Record<string, Schemas["StandingOut"]>;

/** How the airframes of the shelf stand, by their ids; they come one after another, and what was known stays until
 * then. */
export function useStandings(enabled: boolean) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: keys.standings,
    queryFn: async ({ signal }) => {
      let found = queries.getQueryData<Standings>(keys.standings) ?? {};
      for await (const { standing } of linesOf<{ standing: Schemas["StandingOut"] }>("/api/crash/standings", {
        signal,
      })) {
        if (!standing) continue;
        found = { ...found, [standing.airframe_id]: standing };
        queries.setQueryData(keys.standings, found);
      }
      return found;
    },
    enabled,
    staleTime: 0,
    retry: false,
  });
}

/** The types of airframe that can be made at once. */
export const useAirframeTypes = () =>
  useQuery({ queryKey: keys.airframeTypes, queryFn: () => must(api.GET("/api/studies/airframe-types")) });

export const useCoupons = () =>
  usePages(
    keys.coupons,
    (before) => must(api.GET("/api/joints/coupons", { params: { query: { before } } })),
    (page) => page.coupons,
  );

export const useTrials = () =>
  useQuery({ queryKey: keys.trials, queryFn: () => must(api.GET("/api/joints/trials")) });

export const of = (airframe: string) => ({ params: { path: { airframe_id: airframe } } });

export const useJobs = (airframe: string) =>
  useQuery({
    queryKey: keys.jobs(airframe),
    queryFn: () => must(api.GET("/api/crash/airframes/{airframe_id}/jobs", of(airframe))),
    staleTime: 0,
  });

/** The time line, a page at a time, and what all of it shows together. */
export const useLog = (airframe: string, words = "", kinds: Schemas["Event"]["kind"][] = []) =>
  usePages(
    [...keys.log(airframe), words, kinds.join(" ")],
    (before) =>
      must(
        api.GET("/api/crash/airframes/{airframe_id}/log", {
          params: { path: { airframe_id: airframe }, query: { before, words, kinds } },
        }),
      ),
    (page) => page.entries,
  );

/** Instruments that stand on the bench. */
export const useInstruments = () =>
  useQuery({ queryKey: keys.instruments, queryFn: () => must(api.GET("/api/instruments")) });

export type LogLine = NonNullable<ReturnType<typeof useLog>["rows"]>[number];

export const usePictures = (airframe: string) =>
  useQuery({
    queryKey: keys.pictures(airframe),
    queryFn: () => must(api.GET("/api/crash/airframes/{airframe_id}/pictures", of(airframe))),
  });

export const useCandidates = (airframe: string) =>
  useQuery({
    queryKey: keys.candidates(airframe),
    queryFn: () => must(api.GET("/api/crash/airframes/{airframe_id}/candidates", of(airframe))),
  });

export const usePinned = (airframe: string) =>
  useQuery({
    queryKey: keys.pins(airframe),
    queryFn: () => must(api.GET("/api/airframes/{airframe_id}/pins", of(airframe))),
  });

/** What is on the builder's own shelf. */
export const useOwn = () =>
  useQuery({ queryKey: keys.own, queryFn: () => must(api.GET("/api/stock/own")), staleTime: 0 });

/** Which airframes are made with each material. */
export const useUses = () =>
  useQuery({ queryKey: keys.uses, queryFn: () => must(api.GET("/api/stock/uses")), staleTime: 0 });

export const useFoamTests = () =>
  useQuery({ queryKey: keys.foamTests, queryFn: () => must(api.GET("/api/stock/foam-tests")) });

/** What was cut for an airframe. */
export const useCuts = (airframe: string) =>
  useQuery({
    queryKey: keys.cuts(airframe),
    queryFn: () =>
      must(api.GET("/api/stock/cuts/{airframe_id}", { params: { path: { airframe_id: airframe } } })),
    staleTime: 0,
  });
