import { useRef, useState } from "react";
import type { Airframe, Problem } from "../../api/client";
import { useNewAirframe } from "../../api/changes";

const MOST_BYTES = 512_000;

/** Opens an airframe's file: all of it or nothing; what is wrong is told by its place in the file. */
export function OpenFile() {
  const another = useNewAirframe();
  const input = useRef<HTMLInputElement>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const open = async (file: File) => {
    setProblems([]);
    if (file.size > MOST_BYTES) {
      setProblems([{ path: "", message: "This file is too large to be an airframe: at most 512 kB." }]);
      return;
    }
    let document: unknown;
    try {
      document = JSON.parse(await file.text());
    } catch (error) {
      setProblems([{ path: "", message: `This is not a JSON file: ${(error as Error).message}` }]);
      return;
    }
    another.mutate(document as Airframe, { onError: (refused) => setProblems(refused.problems) });
  };
  return (
    <span className="relative">
      <button type="button" className="key-button" onClick={() => input.current?.click()}>
        Open a file
      </button>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        aria-label="Airframe file"
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) void open(file);
          e.target.value = "";
        }}
      />
      {problems.length > 0 && (
        <div
          role="alert"
          className="absolute top-full right-0 z-20 mt-2 w-96 border border-fail bg-raised px-4 py-3 text-body leading-snug"
        >
          <p className="font-semibold text-fail">Nothing was opened</p>
          <ul className="mt-1 grid max-h-60 gap-1 overflow-y-auto">
            {problems.map((p) => (
              <li key={p.path + p.message}>
                {p.path && <span className="figure-type">{p.path} </span>}
                {p.message}
              </li>
            ))}
          </ul>
          <button type="button" className="key-button mt-2" onClick={() => setProblems([])}>
            Close
          </button>
        </div>
      )}
    </span>
  );
}
