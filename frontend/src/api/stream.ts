/** Answers of the server that grow while one watches: lines of JSON, each with one key that says what it is. */

import { problemsOf, Refused, send, type Problem } from "./client";

type Line<Steps> = Partial<Steps> & { problems?: Problem[] };

/** Reads a stream line by line until it ends or is stopped.
 *
 * @throws Refused where the server says no, at once or in the course of the answer. */
export async function* linesOf<Steps>(path: string, request: RequestInit): AsyncGenerator<Line<Steps>> {
  let response: Response;
  try {
    response = await send(path, request);
  } catch (error) {
    if (request.signal?.aborted) throw error;
    throw new Refused([
      { path: "", message: "No answer from the server. Check that Fletcher is running, then try again." },
    ]);
  }
  if (!response.ok || !response.body) throw new Refused(problemsOf(await response.json().catch(() => null)));
  const reader = response.body.getReader();
  const decoder = new TextDecoder();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (rest + decoder.decode(value, { stream: true })).split("\n");
    rest = lines.pop()!;
    for (const text of lines) {
      if (!text) continue;
      const line = JSON.parse(text) as Line<Steps>;
      if (line.problems) throw new Refused(line.problems);
      yield line;
    }
  }
}

/** A question that is sent as JSON. */
export const posting = (body: unknown, signal: AbortSignal): RequestInit => ({
  method: "POST",
  headers: { "Content-Type": "application/json" },
  body: JSON.stringify(body),
  signal,
});
