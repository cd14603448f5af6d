import type { QueryClient } from "@tanstack/react-query";
import { Refused, api, type Airframe, type AirframeOut, type Part, type Problem } from "../../api/client";
import { accepted, readAnew } from "../../api/changes";
import { keys } from "../../api/queries";
import { freshId } from "../../forms/ids";

interface NewAirframe {
  name: string;
  all_up_mass_g: number;
  top_speed_m_s: number;
  state?: AirframeOut["document"]["state"];
}

/** Puts a part into an airframe of the shelf, or into a new one; tells by which address it is found, on the bench or on
the crash desk, or what is wrong. */
export async function putPart(
  part: Part,
  into: AirframeOut | NewAirframe,
  queries: QueryClient,
  place: "bench" | "crash" = "bench",
): Promise<{ to: string } | { problems: Problem[] }> {
  const parts = "document" in into ? (into.document.parts ?? []) : [];
  const id = freshId(
    part.id,
    parts.map((p) => p.id),
  );
  const made = { ...part, id };
  // what is left out takes the core's defaults
  const started: Partial<Airframe> | null =
    "document" in into
      ? null
      : {
          format: "fletcher-airframe",
          version: 6,
          name: into.name.trim() || "New airframe",
          state: into.state ?? "building",
          all_up_mass_g: into.all_up_mass_g,
          top_speed_m_s: into.top_speed_m_s,
          note: "",
          parts: [made],
        };
  try {
    const kept =
      "document" in into
        ? await accepted(
            api.PUT("/api/airframes/{airframe_id}", {
              params: { path: { airframe_id: into.id } },
              body: { revision: into.revision, document: { ...into.document, parts: [...parts, made] } },
            }),
          )
        : await accepted(
            api.POST("/api/airframes", {
              body: { variants: [], ...(started as Airframe) },
            }),
          );
    if (!kept) throw new Refused([{ path: "", message: "the server told nothing" }]);
    queries.removeQueries({ queryKey: ["airframe", kept.id] });
    return { to: `/${place}/${kept.id}/${id}` };
  } catch (refused) {
    if (refused instanceof Refused) return { problems: refused.problems };
    throw refused;
  } finally {
    await readAnew(queries, keys.shelf);
  }
}
