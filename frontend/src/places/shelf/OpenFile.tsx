import { useState } from "react";
import type { Airframe, Problem } from "../../api/client";
import { useNewAirframe } from "../../api/changes";
import { FileButton } from "../../forms/FileButton";
import { ProblemList } from "../../words/ProblemList";

const MOST_BYTES = 512_000;

/** Opens an airframe's file: all of it or nothing; what is wrong is told by its place in the file. */
export function OpenFile() {
  const another = useNewAirframe();
  const [problems, setProblems] = useState<Problem[]>([]);
  const open = async (file: File) => {
    setProblems([]);
    if (file.size > MOST_BYTES) {
      setProblems([{ path: "", message: "This file is too large for an airframe (limit 512 kB)." }]);
      return;
    }
    let document: unknown;
    try {
      document = JSON.parse(await file.text());
    } catch (error) {
      setProblems([{ path: "", message: `This file is not valid JSON: ${(error as Error).message}` }]);
      return;
    }
    another.mutate(document as Airframe, { onError: (refused) => setProblems(refused.problems) });
  };
  return (
    <span className="relative">
      <FileButton
        label="Open file"
        name="Airframe file"
        accept=".json,application/json"
        onFile={(file) => void open(file)}
      />
      {problems.length > 0 && (
        <div
          role="alert"
          className="absolute top-full right-0 z-20 mt-2 w-96 border border-fail bg-raised px-4 py-3 text-body leading-snug"
        >
          <p className="font-semibold text-fail">File not opened</p>
          <ProblemList problems={problems} />
          <button type="button" className="key-button mt-2" onClick={() => setProblems([])}>
            Close
          </button>
        </div>
      )}
    </span>
  );
}
