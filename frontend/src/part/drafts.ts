/** Drafts that this browser keeps until the server has them. */

import { saveBlob } from "../charts/save";

export const DRAFT = "fletcher:draft:";

/** Names under which drafts are kept here; none where the browser keeps nothing. */
export function draftsHere(): string[] {
  try {
    return Object.keys(window.localStorage).filter((key) => key.startsWith(DRAFT));
  } catch {
    return [];
  }
}

/** Take a draft out of the browser, save it as a file, and load the page anew. */
export function setAside(key: string): void {
  const kept = window.localStorage.getItem(key) ?? "";
  saveBlob(new Blob([kept], { type: "application/json" }), `draft-${key.slice(DRAFT.length)}.json`);
  window.localStorage.removeItem(key);
  window.location.reload();
}
