import type { QueryClient } from "@tanstack/react-query";
import { api, problemsOf, type AirframeOut, type Part, type Problem } from "../../api/client";
import { keys, readAnew } from "../../api/queries";
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
  const answer =
    "document" in into
      ? await api.PUT("/api/airframes/{airframe_id}", {
          params: { path: { airframe_id: into.id } },
          body: { revision: into.revision, document: { ...into.document, parts: [...parts, made] } },
        })
      : await api.POST("/api/airframes", {
          // what is left out takes the core's defaults
          body: {
            format: "fletcher-airframe",
            version: 3,
            name: into.name.trim() || "New airframe",
            state: into.state ?? "building",
            all_up_mass_g: into.all_up_mass_g,
            top_speed_m_s: into.top_speed_m_s,
            note: "",
            parts: [made],
          } as unknown as AirframeOut["document"],
        });
  await readAnew(queries, keys.shelf);
  if (answer.data) {
    queries.removeQueries({ queryKey: ["airframe", answer.data.id] });
    return { to: `/${place}/${answer.data.id}/${id}` };
  }
  if (answer.response.status === 409)
    return {
      problems: [
        {
          path: "",
          message: "This airframe was changed elsewhere meanwhile. Close this, look, and try again.",
        },
      ],
    };
  return { problems: problemsOf(answer.error) };
}
