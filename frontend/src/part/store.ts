import { api, problemsOf, type Airframe, type AirframeOut } from "../api/client";
import type { Answer, News, Store } from "./keeper";

function answer(data: AirframeOut | undefined, error: unknown, status: number): Answer {
  if (data && status === 200) return { kind: "ok", state: data };
  if (status === 401) return { kind: "signedOut" };
  if (status === 404) return { kind: "gone" };
  if (status === 409) return { kind: "stale", state: error as AirframeOut };
  if (status === 422 || status === 413) return { kind: "invalid", problems: problemsOf(error) };
  if (status === 429) return { kind: "busy" };
  if ([403, 500, 503, 507].includes(status)) return { kind: "fault", problems: problemsOf(error) };
  return { kind: "unreachable" };
}

/** The server as the keeper's store. */
export const serverStore: Store = {
  async save(id: string, revision: number, document: Airframe): Promise<Answer> {
    try {
      const { data, error, response } = await api.PUT("/api/airframes/{airframe_id}", {
        params: { path: { airframe_id: id } },
        body: { revision, document },
      });
      return answer(data, error, response.status);
    } catch {
      return { kind: "unreachable" };
    }
  },
  async step(id: string, revision: number, way: "undo" | "redo"): Promise<Answer> {
    const request = { params: { path: { airframe_id: id } }, body: { revision } };
    try {
      const { data, error, response } =
        way === "undo"
          ? await api.POST("/api/airframes/{airframe_id}/undo", request)
          : await api.POST("/api/airframes/{airframe_id}/redo", request);
      return answer(data, error, response.status);
    } catch {
      return { kind: "unreachable" };
    }
  },
  async news(id: string, since: number): Promise<News> {
    try {
      const { data, response } = await api.GET("/api/airframes/{airframe_id}/since/{number}", {
        params: { path: { airframe_id: id, number: since } },
      });
      if (response.status === 404) return { kind: "gone" };
      return data?.state
        ? { kind: "changed", state: data.state, says: data.says, device: data.device }
        : { kind: "none" };
    } catch {
      return { kind: "none" };
    }
  },
};
