/** How the page changes what is stored on the server: guessed at once, taken back with a reason where the server
 * refuses. */

import {
  useMutation,
  useQueryClient,
  type InfiniteData,
  type QueryClient,
  type QueryKey,
} from "@tanstack/react-query";
import { api, problemsOf, Refused, send, type Airframe, type Problem, type Schemas } from "./client";
import { keys, of } from "./queries";

const BY_STATUS: Record<number, string> = {
  401: "you are signed out: sign in again, then try once more",
  403: "the page is out of date: reload it",
  404: "it is no longer there",
  409: "it was changed elsewhere meanwhile: reload the page, then try once more",
  413: "it is too large",
  429: "the server is asked too often: wait a moment",
};

/** The answer to a change; what is refused is thrown with its reason. */
export async function accepted<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T | undefined> {
  let answer;
  try {
    answer = await call;
  } catch {
    throw new Refused([{ path: "", message: "the server does not answer: is it running?" }]);
  }
  if (answer.response.ok) return answer.data;
  const told = (answer.error as { problems?: Problem[] } | undefined)?.problems;
  const plain = BY_STATUS[answer.response.status];
  throw new Refused(told ?? (plain ? [{ path: "", message: plain }] : problemsOf(answer.error)));
}

/** Why a change was refused, in a sentence; null once it is done. */
export async function troubleOf(change: Promise<unknown>): Promise<string | null> {
  try {
    await change;
    return null;
  } catch (refused) {
    if (refused instanceof Refused) return refused.problems[0]!.message;
    throw refused;
  }
}

/**
 * Read again what a change has made old. A first reading still under way may have been answered before the change:
 * the library would wait for it and keep it, so it is given up first.
 */
export async function readAnew(queries: QueryClient, ...stale: QueryKey[]) {
  await Promise.all(stale.map((queryKey) => queries.cancelQueries({ queryKey })));
  await Promise.all(stale.map((queryKey) => queries.invalidateQueries({ queryKey })));
}

interface Change<V> {
  /** Sends it. */
  send: (variables: V) => Promise<unknown>;
  /** What is read anew after it. */
  refreshes: QueryKey[];
  /** How the first of these looks once it is done, shown until the server has answered. */
  guess?: (now: unknown, variables: V) => unknown;
}

/** A change of what is stored: its guess is shown at once and taken back if it is refused. */
export function useChange<V>({ send, refreshes, guess }: Change<V>) {
  const queries = useQueryClient();
  const [first] = refreshes;
  return useMutation<unknown, Refused, V, { before: unknown }>({
    mutationFn: send,
    onMutate: async (variables) => {
      if (!guess || !first) return { before: undefined };
      await queries.cancelQueries({ queryKey: first });
      const before = queries.getQueryData(first);
      if (before !== undefined) queries.setQueryData(first, guess(before, variables));
      return { before };
    },
    onError: (_, __, context) => {
      if (first && context?.before !== undefined) queries.setQueryData(first, context.before);
    },
    // the change is done when the server has it: what is read again meanwhile holds nobody up
    onSettled: () => void readAnew(queries, ...refreshes),
  });
}

const without = (now: unknown, id: string | number) =>
  (now as { id: string | number }[]).filter((row) => row.id !== id);

interface Ticked {
  job: Schemas["JobOut"];
  task: Schemas["TaskOut"];
  done: boolean;
}

/** Tick a step of work off, or take the tick back; what was noted at it stays. */
export const useTick = (airframe: string) =>
  useChange<Ticked>({
    send: ({ job, task, done }) =>
      accepted(
        api.PUT("/api/crash/jobs/{job_id}/tasks/{number}", {
          params: { path: { job_id: job.id, number: task.number } },
          body: { done, note: task.note },
        }),
      ),
    refreshes: [keys.jobs(airframe), keys.log(airframe)],
    guess: (now, { job, task, done }) =>
      (now as Schemas["JobOut"][]).map((j) =>
        j.id !== job.id
          ? j
          : {
              ...j,
              tasks: j.tasks.map((t) =>
                t.number === task.number ? { ...t, done: done ? new Date().toISOString() : null } : t,
              ),
            },
      ),
  });

interface Measured {
  job: Schemas["JobOut"];
  check: Schemas["CheckOut"];
  value: number | null;
}

/** Put in what a check of the mended part measured, or take it out again. */
export const useMeasure = (airframe: string) =>
  useChange<Measured>({
    send: ({ job, check, value }) =>
      accepted(
        api.PUT("/api/crash/jobs/{job_id}/checks/{number}", {
          params: { path: { job_id: job.id, number: check.number } },
          body: { value },
        }),
      ),
    refreshes: [keys.jobs(airframe), keys.log(airframe)],
  });

export const useRemoveJob = (airframe: string) =>
  useChange<string>({
    send: (id) => accepted(api.DELETE("/api/crash/jobs/{job_id}", { params: { path: { job_id: id } } })),
    refreshes: [keys.jobs(airframe), keys.log(airframe)],
    guess: without,
  });

export const useWriteLog = (airframe: string) =>
  useChange<Schemas["LogIn"]>({
    send: (body) => accepted(api.POST("/api/crash/airframes/{airframe_id}/log", { ...of(airframe), body })),
    refreshes: [keys.log(airframe)],
  });

/** Put the new entries of a table into the Log. */
export const useTakeLogTable = (airframe: string) =>
  useChange<string>({
    send: (text) =>
      accepted(
        api.POST("/api/crash/airframes/{airframe_id}/log-from-table", {
          ...of(airframe),
          body: { text, keep: true },
        }),
      ),
    refreshes: [keys.log(airframe)],
  });

/** Another wording of an entry of the Log. */
export const useCorrectLog = (airframe: string) =>
  useChange<{ id: string; body: Schemas["LogIn"] }>({
    send: ({ id, body }) =>
      accepted(api.PUT("/api/crash/log/{entry_id}", { params: { path: { entry_id: id } }, body })),
    refreshes: [keys.log(airframe)],
  });

/** Take an entry off the Log, or put it back. */
export const useRemoveLog = (airframe: string) =>
  useChange<{ id: string; back: boolean }>({
    send: ({ id, back }) => {
      const at = { params: { path: { entry_id: id } } };
      return accepted(
        back ? api.POST("/api/crash/log/{entry_id}/back", at) : api.DELETE("/api/crash/log/{entry_id}", at),
      );
    },
    refreshes: [keys.log(airframe)],
  });

/** Send a file with what belongs to it, and read the answer; the typed client speaks JSON. */
const sendFile = async <T>(address: string, fields: Record<string, File | string | string[]>) => {
  const body = new FormData();
  for (const [key, value] of Object.entries(fields))
    for (const one of Array.isArray(value) ? value : [value]) body.append(key, one);
  const read = async (response: Response) => {
    const told = (await response.json()) as unknown;
    return response.ok ? { response, data: told as T } : { response, error: told };
  };
  return accepted<T>(send(address, { method: "POST", body }).then(read));
};

/** What an archive of an account would bring; stores nothing. */
export const lookAtArchive = (archive: File) =>
  sendFile<Schemas["ArrivalsOut"]>("/api/account/archive/look", { archive });

/** Take an archive in, but for the airframes that are left. */
export const takeArchive = (archive: File, leave: string[]) =>
  sendFile<Schemas["ArrivalsOut"]>("/api/account/archive/take", { archive, leave });

interface NewPicture {
  file: File;
  part: string;
  mark: string;
}

/** Put a picture to a mark of the airframe as it is stored. */
export const useAddPicture = (airframe: string) =>
  useChange<NewPicture>({
    send: ({ file, part, mark }) =>
      sendFile(`/api/crash/airframes/${airframe}/pictures`, { photo: file, part_id: part, mark_id: mark }),
    refreshes: [keys.pictures(airframe), keys.log(airframe)],
  });

/** Put a picture to an entry of the Log. */
export const useAddEntryPicture = (airframe: string) =>
  useChange<{ entry: string; file: File }>({
    send: ({ entry, file }) => sendFile(`/api/crash/log/${entry}/pictures`, { photo: file }),
    refreshes: [keys.pictures(airframe), keys.log(airframe)],
  });

/** A photograph of a step of work: an entry in the Log that says what was done, and the picture at it. */
export const useStepPhoto = (airframe: string) =>
  useChange<{ says: string; part: string | null; file: File }>({
    send: async ({ says, part, file }) => {
      const entry = await accepted(
        api.POST("/api/crash/airframes/{airframe_id}/log", {
          ...of(airframe),
          body: { event: { kind: "build", says, part_id: part, marks: [], stretches_mm: [] } },
        }),
      );
      if (entry) await sendFile(`/api/crash/log/${entry.id}/pictures`, { photo: file });
    },
    refreshes: [keys.log(airframe)],
  });

interface NewCoupon {
  coupon: Schemas["Coupon"];
  trial: string | null;
  photo: File | null;
}

/** Keep a broken coupon and the picture of its face. The coupon stays kept where its picture is refused. */
export const useKeepCoupon = () =>
  useChange<NewCoupon>({
    send: async ({ coupon, trial, photo }) => {
      const kept = await accepted(api.POST("/api/joints/coupons", { body: { coupon, trial_id: trial } }));
      if (photo && kept) await sendFile(`/api/joints/coupons/${kept.id}/photo`, { photo });
    },
    refreshes: [keys.coupons, keys.trials, keys.glue],
  });

interface NewTrial {
  wish: Schemas["TrialWish"];
}

/** Keep a trial as it was planned. */
export const useKeepTrial = () =>
  useChange<NewTrial>({
    send: ({ wish }) => accepted(api.POST("/api/joints/trials", { body: wish })),
    refreshes: [keys.trials, keys.coupons, keys.glue],
  });

export const useRemovePicture = (airframe: string) =>
  useChange<string>({
    send: (id) =>
      accepted(api.DELETE("/api/crash/pictures/{picture_id}", { params: { path: { picture_id: id } } })),
    refreshes: [keys.pictures(airframe), keys.log(airframe)],
    guess: without,
  });

export const useKeepCandidate = (airframe: string) =>
  useChange<Schemas["CandidateIn"]>({
    send: (body) =>
      accepted(api.POST("/api/crash/airframes/{airframe_id}/candidates", { ...of(airframe), body })),
    refreshes: [keys.candidates(airframe)],
  });

export const useRemoveCandidate = (airframe: string) =>
  useChange<string>({
    send: (id) =>
      accepted(
        api.DELETE("/api/crash/candidates/{candidate_id}", { params: { path: { candidate_id: id } } }),
      ),
    refreshes: [keys.candidates(airframe)],
    guess: without,
  });

const withoutCoupon = (now: InfiniteData<Schemas["CouponPage"]>, id: string) => ({
  ...now,
  pages: now.pages.map((page) => ({ ...page, coupons: page.coupons.filter((c) => c.id !== id) })),
});

export const useRemoveCoupon = () =>
  useChange<string>({
    send: (id) =>
      accepted(api.DELETE("/api/joints/coupons/{coupon_id}", { params: { path: { coupon_id: id } } })),
    refreshes: [keys.coupons, keys.trials, keys.glue],
    guess: (now, id) => withoutCoupon(now as InfiniteData<Schemas["CouponPage"]>, id),
  });

export const useRemoveTrial = () =>
  useChange<string>({
    send: (id) =>
      accepted(api.DELETE("/api/joints/trials/{trial_id}", { params: { path: { trial_id: id } } })),
    refreshes: [keys.trials, keys.coupons, keys.glue],
    guess: without,
  });

export const useRemoveAirframe = () =>
  useChange<string>({
    send: (id) =>
      accepted(api.DELETE("/api/airframes/{airframe_id}", { params: { path: { airframe_id: id } } })),
    refreshes: [keys.shelf, keys.bin],
    guess: without,
  });

export const usePinUp = (airframe: string) =>
  useChange<Schemas["PinIn"]>({
    send: (body) => accepted(api.POST("/api/airframes/{airframe_id}/pins", { ...of(airframe), body })),
    refreshes: [keys.pins(airframe)],
  });

interface Renamed {
  id: number;
  name: string;
}

const pin = (airframe: string, id: number) => ({ params: { path: { airframe_id: airframe, pin_id: id } } });

export const useRenamePin = (airframe: string) =>
  useChange<Renamed>({
    send: ({ id, name }) =>
      accepted(
        api.PUT("/api/airframes/{airframe_id}/pins/{pin_id}", { ...pin(airframe, id), body: { name } }),
      ),
    refreshes: [keys.pins(airframe)],
    guess: (now, { id, name }) => (now as Schemas["PinOut"][]).map((p) => (p.id === id ? { ...p, name } : p)),
  });

export const useUnpin = (airframe: string) =>
  useChange<number>({
    send: (id) => accepted(api.DELETE("/api/airframes/{airframe_id}/pins/{pin_id}", pin(airframe, id))),
    refreshes: [keys.pins(airframe)],
    guess: without,
  });

/** Take a repair into the part and make its work list. */
export const useAdopt = (airframe: string) =>
  useChange<Schemas["Adoption"]>({
    send: (body) => accepted(api.POST("/api/crash/airframes/{airframe_id}/adopt", { ...of(airframe), body })),
    refreshes: [keys.jobs(airframe), keys.log(airframe)],
  });

/** Put an airframe on the shelf; what it leaves out takes the core's defaults. */
export const useNewAirframe = () =>
  useChange<Airframe>({
    send: (document) => accepted(api.POST("/api/airframes", { body: { variants: [], ...document } })),
    refreshes: [keys.shelf],
  });

type Thing = Schemas["ThingOut"];
type Item = Schemas["StockItem"];

/** Puts a thing on the shelf. */
export const usePutOn = () =>
  useChange<Item>({
    send: (item) => accepted(api.POST("/api/stock/own", { body: { item } })),
    refreshes: [keys.own],
  });

interface ThingAsItIsToBe {
  thing: Thing;
  item: Item;
  reserved_for: string | null;
}

/** Changes a thing, or for whom it is reserved. */
export const useChangeThing = () =>
  useChange<ThingAsItIsToBe>({
    send: ({ thing, item, reserved_for }) =>
      accepted(
        api.PUT("/api/stock/own/{thing_id}", {
          params: { path: { thing_id: thing.id } },
          body: { revision: thing.revision, item, reserved_for },
        }),
      ),
    refreshes: [keys.own],
  });

/** Takes a thing off the shelf. */
export const useTakeOff = () =>
  useChange<string>({
    send: (id) => accepted(api.DELETE("/api/stock/own/{thing_id}", { params: { path: { thing_id: id } } })),
    refreshes: [keys.own],
    guess: (now, id) => without(now, id),
  });

interface Pieces {
  thing: string;
  airframe: string;
  pieces_mm: number[];
}

/** Cuts pieces from a thing for an airframe. */
export const useCutPieces = (airframe: string) =>
  useChange<Pieces>({
    send: ({ thing, airframe: airframe_id, pieces_mm }) =>
      accepted(
        api.POST("/api/stock/own/{thing_id}/cut", {
          params: { path: { thing_id: thing } },
          body: { airframe_id, pieces_mm, kerf_mm: 1 },
        }),
      ),
    refreshes: [keys.own, keys.cuts(airframe)],
  });

/** Takes a cut back. */
export const useUndoCut = (airframe: string) =>
  useChange<string>({
    send: (id) => accepted(api.DELETE("/api/stock/own-cuts/{cut_id}", { params: { path: { cut_id: id } } })),
    refreshes: [keys.own, keys.cuts(airframe)],
  });

/** Puts all of a table on the shelf. */
export const useTakeStockTable = () =>
  useChange<string>({
    send: (text) => accepted(api.POST("/api/stock/own-from-table", { body: { text, put_on: true } })),
    refreshes: [keys.own],
  });

/** Foam from a part of a broken airframe onto the shelf. */
export const useScrapPart = () =>
  useChange<{ airframe: string; part: string }>({
    send: ({ airframe, part }) =>
      accepted(
        api.POST("/api/stock/scrap/{airframe_id}", {
          params: { path: { airframe_id: airframe } },
          body: { part_id: part },
        }),
      ),
    refreshes: [keys.own],
  });
