/** Whether the session is still good, told by what the server answers to anything. */

let lost = false;
const listeners = new Set<() => void>();
const back = new Set<() => void>();

const tell = (to: Set<() => void>) => {
  for (const listener of to) listener();
};

/** For `useSyncExternalStore`: whether the server has said that nobody is signed in. */
export const sessionLost = {
  subscribe: (listener: () => void) => {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  get: () => lost,
};

/** The server has said that nobody is signed in. */
export function loseSession(): void {
  if (lost) return;
  lost = true;
  tell(listeners);
}

/** Somebody has signed in again: what waits for it goes on. */
export function regainSession(): void {
  lost = false;
  tell(listeners);
  tell(back);
}

/** Calls back when somebody has signed in again; returns how to stop that. */
export function whenSignedIn(call: () => void): () => void {
  back.add(call);
  return () => void back.delete(call);
}
