import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

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

let csrf = "";

/** Remember the token that every change has to carry. */
export function rememberSession(session: Session): Session {
  csrf = session.csrf;
  return session;
}

/** The token for what is asked outside the typed client. */
export function csrfToken(): string {
  return csrf;
}

export const api = createClient<paths>({ baseUrl: "/" });

api.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrf);
    return request;
  },
});

/** The problems that a refused request names; a general one where it names none. */
export function problemsOf(error: unknown): Problem[] {
  const problems = (error as { problems?: Problem[] } | undefined)?.problems;
  return problems ?? [{ path: "", message: "The server refused this without saying why." }];
}

/** Unwrap a read that ought to succeed, for TanStack Query. */
export async function must<T>(call: Promise<{ data?: T; response: Response }>): Promise<T> {
  const { data, response } = await call;
  if (data === undefined) throw new Error(`${response.status}`);
  return data;
}
