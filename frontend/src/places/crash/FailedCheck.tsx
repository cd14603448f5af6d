import { useState } from "react";
import { accepted, troubleOf } from "../../api/changes";
import { api, type Part, type Schemas } from "../../api/client";
import { MARKS } from "../../part/Marks";
import type { Subject } from "../../part/useStudy";

interface Props {
  job: Schemas["JobOut"];
  subject: Subject;
  part: Part;
  change: (edit: (part: Part) => Part) => void;
}

/** A repair whose check failed: what it mended is marked again by one press, as far as the part can still have it. */
export function FailedCheck({ job, subject, part, change }: Props) {
  const [says, say] = useState("");
  const gone = job.marks.filter((m) => !(part.damage ?? []).some((d) => d.id === m.id));
  const reopen = async () => {
    const trouble = await troubleOf(
      accepted(api.POST("/api/crash/reopen", { body: { ...subject, marks: gone } })).then((back = []) => {
        change((p) => ({ ...p, damage: [...(p.damage ?? []), ...back] }));
        const left = gone.filter((m) => !back.some((b) => b.id === m.id));
        const names = left.map((m) => MARKS[m.kind].toLowerCase()).join(", ");
        say(left.length === 0 ? "" : `Mark by hand, for the repair has changed the lay-up there: ${names}.`);
      }),
    );
    if (trouble) say(`This could not be marked again: ${trouble}.`);
  };
  return (
    <div className="pb-2 text-fail">
      <p>
        <strong>✕ Do not fly</strong>: a check failed,{" "}
        {job.checks.find((c) => c.holds === false)!.what.toLowerCase()}.
      </p>
      {gone.length > 0 && says === "" && (
        <button type="button" className="key-button mt-1 text-ink" onClick={() => void reopen()}>
          Mark it again: {gone.map((m) => MARKS[m.kind].toLowerCase()).join(", ")}
        </button>
      )}
      <p role="status">{says}</p>
    </div>
  );
}
