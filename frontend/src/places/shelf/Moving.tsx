import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { lookAtArchive, readAnew, takeArchive } from "../../api/changes";
import { Refused, api, must, type Problem, type Schemas } from "../../api/client";
import { keys } from "../../api/queries";
import { FileButton } from "../../forms/FileButton";
import { Modal } from "../../forms/Modal";
import { ProblemList } from "../../words/ProblemList";

type Arrivals = Schemas["ArrivalsOut"];
type Arriving = Schemas["ArrivingOut"];

const FATES: Record<Arriving["fate"], string> = {
  new: "new",
  newer: "newer than yours: becomes its newest version, one undo away",
  here: "already here: only missing log entries and photos are added",
  beside: "differs from yours: added as a second airframe",
  same: "the same as one on your Shelf: not imported",
};

const MB = 1_000_000;

/** Everything of the account as one file, and such a file taken in after a look at what it brings. */
export function Moving() {
  const queries = useQueryClient();
  const [found, setFound] = useState<{ archive: File; arrivals: Arrivals } | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [says, setSays] = useState("");
  const storage = useQuery({
    queryKey: keys.storage,
    queryFn: () => must(api.GET("/api/account/storage")),
  });
  const tried = async (work: Promise<unknown>) => {
    setProblems([]);
    try {
      await work;
    } catch (refused) {
      if (!(refused instanceof Refused)) throw refused;
      setProblems(refused.problems);
    } finally {
      setSays("");
    }
  };
  const look = async (archive: File) => {
    setSays("Checking the file…");
    await tried(lookAtArchive(archive).then((arrivals) => setFound({ archive, arrivals: arrivals! })));
  };
  const take = async (archive: File, leave: string[]) => {
    setFound(null);
    setSays("Importing…");
    await tried(takeArchive(archive, leave));
    await readAnew(queries, keys.shelf, keys.bin, keys.storage, keys.damaged);
  };
  return (
    <section aria-label="Your account as a file" className="mt-8">
      <h2 className="border-b border-ink pb-2 text-title font-bold">Your account as one file</h2>
      <p className="mt-2 max-w-prose text-body text-soft">
        A ZIP of open files: airframes with their history and variants, logs, repairs, photos, glue tests. To
        keep it elsewhere, or to move to another server.
        {storage.data &&
          ` Your account takes up ${(storage.data.used_bytes / MB).toFixed(1)} of ${storage.data.most_bytes / MB} MB.`}
      </p>
      <p className="mt-2 flex flex-wrap gap-3">
        <a className="key-button inline-flex items-center" href="/api/account/archive">
          Export everything
        </a>
        <FileButton
          label="Import a file"
          name="Account file"
          accept=".zip,application/zip"
          onFile={(file) => void look(file)}
        />
      </p>
      <p role="status" className="mt-2 min-h-6">
        {says}
      </p>
      {problems.length > 0 && (
        <div role="alert" className="text-body">
          <p className="font-semibold text-fail">Nothing imported</p>
          <ProblemList problems={problems} />
        </div>
      )}
      {found && (
        <Preview
          arrivals={found.arrivals}
          onTake={(leave) => void take(found.archive, leave)}
          onClose={() => setFound(null)}
        />
      )}
    </section>
  );
}

interface PreviewProps {
  arrivals: Arrivals;
  onTake: (leave: string[]) => void;
  onClose: () => void;
}

const counted = (n: number, one: string) => `${n} ${one}${n === 1 ? "" : "s"}`;

/** What a file brings, airframe by airframe; each can be left out. */
function Preview({ arrivals, onTake, onClose }: PreviewProps) {
  const [leave, setLeave] = useState<string[]>([]);
  const coming = arrivals.airframes.filter((a) => a.fate !== "same" && !leave.includes(a.folder));
  const fresh = coming.filter((a) => a.fate !== "here").length;
  const besides = [
    arrivals.trials > 0 && counted(arrivals.trials, "fair test"),
    arrivals.coupons > 0 && counted(arrivals.coupons, "glue test"),
  ].filter(Boolean);
  const turn = (folder: string) =>
    setLeave((now) => (now.includes(folder) ? now.filter((f) => f !== folder) : [...now, folder]));
  return (
    <Modal title="What this file holds" wide={46} onClose={onClose}>
      <ul className="mt-4">
        {arrivals.airframes.map((a) => (
          <li key={a.folder} className="border-b border-rule py-2">
            <label className="flex min-h-10 items-center gap-3">
              <input
                type="checkbox"
                className="size-5 accent-(--pick)"
                disabled={a.fate === "same"}
                checked={a.fate !== "same" && !leave.includes(a.folder)}
                onChange={() => turn(a.folder)}
              />
              <span>
                <b className="block">
                  {a.name}
                  <span className="font-normal text-soft">
                    {" "}
                    · {counted(a.revisions, "version")}
                    {a.pictures > 0 && `, ${counted(a.pictures, "photo")}`}
                  </span>
                </b>
                {FATES[a.fate]}
                {a.from_bin && "; taken out of the bin"}
              </span>
            </label>
          </li>
        ))}
      </ul>
      {arrivals.airframes.length === 0 && <p>It holds no airframe.</p>}
      {besides.length > 0 && <p className="mt-2">New besides: {besides.join(", ")}.</p>}
      {arrivals.damaged > 0 && (
        <p className="mt-2 text-soft">
          {counted(arrivals.damaged, "row")} could not be read where the file was made, and stays out.
        </p>
      )}
      <div className="mt-5 flex gap-3">
        <button
          type="button"
          className="key-button"
          disabled={coming.length === 0 && besides.length === 0}
          onClick={() => onTake(leave)}
        >
          {fresh ? `Import ${counted(fresh, "airframe")}` : "Add what is missing"}
        </button>
        <button type="button" className="key-button border-transparent" onClick={onClose}>
          Cancel
        </button>
      </div>
    </Modal>
  );
}
