import createClient from "openapi-fetch";
import { backOff } from "./backOff";
import type { components, paths } from "./schema";
import { loseSession } from "./session";

export type Schemas = components["schemas"];
export type AirframeOut = Schemas["AirframeOut"];
export type Airframe = Schemas["Airframe"];
export type Part = Schemas["Part"];
export type Layer = NonNullable<Part["layers"]>[number];
export type BarLayer = Schemas["BarLayer"];
export type StripLayer = Schemas["StripLayer"];
export type FilmLayer = Schemas["FilmLayer"];
export type WallLayer = Schemas["WallLayer"];
export type CutLayer = Schemas["CutLayer"];
export type Laminate = Schemas["Laminate"];
export type LoadCase = Part["cases"][number];
export type Estimate = Schemas["Estimate"];
export type Band = Schemas["Band"];
export type Catalogue = Schemas["CatalogueOut"];
export type Construction = Schemas["ConstructionOut"];
export type Working = Schemas["Working"];
export type Session = Schemas["SessionOut"];

/** One thing wrong with a document, named by the path of its field. */
export interface Problem {
  path: string;
  message: string;
  value?: string;
}

/** The server's no: its problems, or what it means that there was no answer. */
export class Refused extends Error {
  constructor(readonly problems: Problem[]) {
    super(problems.map((p) => `${p.path} ${p.message}`.trim()).join("; "));
  }
}

let csrf = "";
let units = "metric";

/** In which units the server is to write its sentences. */
export function readIn(wanted: string): void {
  units = wanted;
}

/** Remember the token that every change has to carry. */
export function rememberSession(session: Session): Session {
  csrf = session.csrf;
  return session;
}

/** On what this page runs: what another window says of a change made here. */
function device(): Schemas["NewsOut"]["device"] {
  if (!window.matchMedia?.("(pointer: coarse)").matches) return "computer";
  return Math.min(window.screen.width, window.screen.height) < 600 ? "phone" : "tablet";
}

/** What every request carries. */
function ownHeaders(): Record<string, string> {
  return { "X-CSRFToken": csrf, "X-Units": units, "X-Device": device() };
}

const SESSION = "/api/session";

/** So often what the server had no room for is asked again before that is told. */
const TURNS = 4;

/**
 * Send what every request carries along. A change whose token has grown old meanwhile (somebody signed in elsewhere in
 * this browser, the server was started anew) fetches a new one and goes again; a session that has run out is noticed
 * whatever was asked. What a busy server turns away is asked again a little later.
 */
export async function send(url: string, init: RequestInit): Promise<Response> {
  const attempt = () => {
    const headers = new Headers(init.headers);
    for (const [name, value] of Object.entries(ownHeaders())) headers.set(name, value);
    return fetch(url, { ...init, headers });
  };
  let response = await attempt();
  if (url.endsWith(SESSION)) return response;
  for (let n = 0; response.status === 429 && n < TURNS; n++) {
    await letGo(response);
    await new Promise((go) => setTimeout(go, backOff(n)));
    init.signal?.throwIfAborted();
    response = await attempt();
  }
  if (response.status === 403 && init.method !== "GET") {
    await letGo(response);
    const session = await fetch(SESSION);
    if (session.ok) {
      rememberSession((await session.json()) as Session);
      response = await attempt();
    }
  }
  if (response.status === 401) loseSession();
  return response;
}

/** An answer that nobody reads keeps its connection. */
const letGo = async (response: Response) => response.body?.cancel();

/** The typed client's requests, whose body can be read once only. */
async function sendRequest(request: Request): Promise<Response> {
  const { url, method, headers, signal } = request;
  const body = method === "GET" ? undefined : await request.text();
  return send(url, { method, headers, signal, ...(body && { body }) });
}

export const api = createClient<paths>({ baseUrl: "/", fetch: sendRequest });

/** The problems that a refused request names; a general one where it names none. */
export function problemsOf(error: unknown): Problem[] {
  const problems = (error as { problems?: Problem[] } | undefined)?.problems;
  return (
    problems ?? [
      {
        path: "",
        message: "The server refused the change and gave no reason. Reload the page and try again.",
      },
    ]
  );
}

/** Unwrap a read that ought to succeed, for TanStack Query. */
export async function must<T>(call: Promise<{ data?: T; response: Response }>): Promise<T> {
  const { data, response } = await call;
  if (data === undefined) throw new Error(`${response.status}`);
  return data;
}
