import { backOff } from "../api/backOff";
import type { Airframe, AirframeOut, Problem, Schemas } from "../api/client";
import { DRAFT } from "./drafts";

export type Phase =
  "saved" | "saving" | "invalid" | "offline" | "conflict" | "signedOut" | "gone" | "busy" | "fault";

export const PHASE_WORDS: Record<Phase, string> = {
  saved: "saved",
  saving: "Saving…",
  invalid: "Not saved: fix the marked field",
  offline: "Offline: kept in this browser",
  conflict: "Changed in another window",
  signedOut: "signed out; kept in this browser",
  gone: "deleted elsewhere; kept in this browser",
  busy: "the server is busy; kept in this browser",
  fault: "the server stumbled; kept in this browser",
};

/** What the store answers to a change. */
export type Answer =
  | { kind: "ok"; state: AirframeOut }
  | { kind: "stale"; state: AirframeOut }
  | { kind: "invalid"; problems: Problem[] }
  | { kind: "fault"; problems: Problem[] }
  | { kind: "signedOut" | "gone" | "busy" | "unreachable" };

/** What became of an airframe meanwhile. */
export type News = { kind: "none" | "gone" } | ({ kind: "changed"; state: AirframeOut } & Heard);

/** What another window changed, in words, and on what it runs. */
export interface Heard {
  says: string[];
  device: Schemas["NewsOut"]["device"];
}

/** Where changes go: the server's API, or a stand-in in tests. */
export interface Store {
  save(id: string, revision: number, document: Airframe): Promise<Answer>;
  step(id: string, revision: number, way: "undo" | "redo"): Promise<Answer>;
  news(id: string, since: number): Promise<News>;
}

export interface Snapshot {
  document: Airframe;
  revision: number;
  phase: Phase;
  problems: Problem[];
  theirs: AirframeOut | null;
  /** What another window changed, until it has been read. */
  heard: Heard | null;
  canUndo: boolean;
  canRedo: boolean;
}

const QUIET_MS = 350;

/**
 * Keeps what is typed: the draft on screen, a copy in the browser until the server has it, and the order of saves.
 * Invalid drafts stay in the browser; a save that meets a newer revision waits for the builder's choice.
 */
export class Keeper {
  private snapshot: Snapshot;
  private shelf: ReturnType<typeof guarded>;
  private listeners = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | null = null;
  private busy = false;
  private dirty = false;
  /** A step back or forth that was asked for and has not been answered. */
  private owed: "undo" | "redo" | null = null;
  /** How often in a row there was no answer. */
  private tries = 0;

  constructor(
    readonly id: string,
    state: AirframeOut,
    private store: Store,
    shelf: Pick<Storage, "getItem" | "setItem" | "removeItem">,
  ) {
    this.shelf = guarded(shelf);
    this.snapshot = accepted(state);
    this.restore(state);
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  get = (): Snapshot => this.snapshot;

  /** Change the draft; it is kept in the browser at once and sent when typing pauses. */
  edit(change: (document: Airframe) => Airframe): void {
    const document = change(this.snapshot.document);
    if (document === this.snapshot.document) return;
    this.dirty = true;
    this.owed = null; // what is changed now takes the place of a step that never reached the server
    const stays = this.snapshot.phase === "conflict" || this.snapshot.phase === "gone";
    this.set({ document, phase: stays ? this.snapshot.phase : "saving", problems: [] });
    this.shelf.setItem(this.key, JSON.stringify({ revision: this.snapshot.revision, document }));
    this.schedule(QUIET_MS);
  }

  /** Send what is waiting now. */
  async flush(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    await this.again();
  }

  async step(way: "undo" | "redo"): Promise<void> {
    await this.flush();
    if (this.busy || this.snapshot.phase === "conflict") return;
    if (this.dirty) {
      // an invalid draft was never stored: going back means dropping it
      if (way === "undo" && this.snapshot.phase === "invalid") this.drop();
      return;
    }
    this.owed = way;
    await this.again();
  }

  /** Look whether another window has changed the airframe; what is on screen follows where nothing here is unsaved. */
  async listen(): Promise<void> {
    if (this.busy || this.dirty || this.owed || this.snapshot.phase !== "saved") return;
    const { revision } = this.snapshot;
    const news = await this.store.news(this.id, revision);
    const untouched = !this.busy && !this.dirty && !this.owed && this.snapshot.revision === revision;
    if (!untouched) return;
    if (news.kind === "gone") this.set({ phase: "gone" });
    if (news.kind === "changed") {
      this.lastGood = news.state;
      this.set({ ...accepted(news.state), heard: { says: news.says, device: news.device } });
    }
  }

  /** What another window changed has been read. */
  read(): void {
    this.set({ heard: null });
  }

  /** The draft has been put on the shelf as another airframe, or is not wanted. */
  letGo(): void {
    this.dirty = false;
    this.shelf.removeItem(this.key);
  }

  /** After a conflict: keep this draft on top of the newer state, or take the newer state. */
  async resolve(keep: "mine" | "theirs"): Promise<void> {
    const { theirs, document } = this.snapshot;
    if (!theirs) return;
    if (keep === "theirs") {
      this.dirty = false;
      this.shelf.removeItem(this.key);
      this.set(accepted(theirs));
      return;
    }
    this.set({ ...accepted(theirs), document, phase: "saving" });
    this.dirty = true;
    await this.send();
  }

  private lastGood: AirframeOut | null = null;

  private drop(): void {
    this.dirty = false;
    this.shelf.removeItem(this.key);
    if (this.lastGood) this.set(accepted(this.lastGood));
  }

  private get key(): string {
    return DRAFT + this.id;
  }

  private restore(state: AirframeOut): void {
    this.lastGood = state;
    const kept = this.shelf.getItem(this.key);
    if (!kept) return;
    const draft = readDraft(kept);
    if (!draft) {
      this.shelf.removeItem(this.key);
      return;
    }
    const { revision, document } = draft;
    if (JSON.stringify(document) === JSON.stringify(state.document)) {
      this.shelf.removeItem(this.key);
      return;
    }
    this.dirty = true;
    if (revision === state.revision) {
      this.snapshot = { ...this.snapshot, document, phase: "saving" };
      this.schedule(0);
    } else {
      this.snapshot = { ...this.snapshot, document, phase: "conflict", theirs: state };
    }
  }

  private set(change: Partial<Snapshot>): void {
    this.snapshot = { ...this.snapshot, ...change };
    for (const listener of this.listeners) listener();
  }

  private schedule(delay: number): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.timer = null;
      void this.again();
    }, delay);
  }

  /** What has not reached the server: the draft, or a step. */
  private async again(): Promise<void> {
    const { owed } = this;
    if (this.dirty || !owed || this.busy) return this.send();
    this.busy = true;
    const { revision, document } = this.snapshot;
    this.set({ phase: "saving" });
    const answer = await this.store.step(this.id, revision, owed);
    this.busy = false;
    if (!["unreachable", "busy", "fault", "signedOut"].includes(answer.kind)) this.owed = null;
    this.take(answer, document);
  }

  private async send(): Promise<void> {
    const { phase } = this.snapshot;
    if (this.busy || !this.dirty || phase === "conflict" || phase === "gone") return;
    this.busy = true;
    const { document, revision } = this.snapshot;
    const answer = await this.store.save(this.id, revision, document);
    this.busy = false;
    this.take(answer, document);
  }

  private take(answer: Answer, sent: Airframe): void {
    if (answer.kind !== "unreachable" && answer.kind !== "busy" && answer.kind !== "fault") this.tries = 0;
    const current = this.snapshot.document === sent;
    if (answer.kind === "ok") {
      this.lastGood = answer.state;
      if (current) {
        this.dirty = false;
        this.shelf.removeItem(this.key);
        this.set(accepted(answer.state));
      } else {
        const { revision, can_undo, can_redo } = answer.state;
        this.set({ revision, canUndo: can_undo, canRedo: can_redo });
        this.shelf.setItem(this.key, JSON.stringify({ revision, document: this.snapshot.document }));
        this.schedule(0);
      }
    } else if (answer.kind === "stale") {
      this.dirty = true;
      this.set({ phase: "conflict", theirs: answer.state });
    } else if (answer.kind === "invalid") {
      if (current) this.set({ phase: "invalid", problems: answer.problems });
      else this.schedule(0);
    } else if (answer.kind === "signedOut" || answer.kind === "gone") {
      this.set({ phase: answer.kind }); // goes on when somebody has signed in again, or decided about the draft
    } else {
      const { kind } = answer;
      const problems = kind === "fault" ? answer.problems : [];
      this.set({ phase: kind === "unreachable" ? "offline" : kind, problems });
      this.schedule(backOff(this.tries++));
    }
  }
}

/** The browser's storage where it may be full, or blocked altogether: what it refuses is kept on the screen alone. */
function guarded(shelf: Pick<Storage, "getItem" | "setItem" | "removeItem">) {
  const tried = <T>(what: () => T): T | null => {
    try {
      return what();
    } catch {
      return null;
    }
  };
  return {
    getItem: (key: string) => tried(() => shelf.getItem(key)),
    setItem: (key: string, value: string) => void tried(() => shelf.setItem(key, value)),
    removeItem: (key: string) => void tried(() => shelf.removeItem(key)),
  };
}

/** A draft as it was kept in the browser; null where it is torn. */
function readDraft(kept: string): { revision: number; document: Airframe } | null {
  try {
    const draft = JSON.parse(kept) as { revision?: unknown; document?: unknown } | null;
    const whole = typeof draft?.revision === "number" && typeof draft.document === "object" && draft.document;
    return whole ? (draft as { revision: number; document: Airframe }) : null;
  } catch {
    return null;
  }
}

function accepted(state: AirframeOut): Snapshot {
  return {
    document: state.document,
    revision: state.revision,
    phase: "saved",
    problems: [],
    theirs: null,
    heard: null,
    canUndo: state.can_undo,
    canRedo: state.can_redo,
  };
}
