import { useState } from "react";
import { useParams } from "react-router";
import { api, problemsOf, type Airframe, type Part, type Problem } from "../../../api/client";
import { useConstructions, useShelf } from "../../../api/queries";
import { FileButton } from "../../../forms/FileButton";
import { Modal } from "../../../forms/Modal";
import { ProblemList } from "../../../words/ProblemList";

interface Props {
  document: Airframe;
  part: Part;
  /** Keep a part as a variant; a refusal's message, or null. */
  keep: (part: Part, name: string) => Promise<string | null>;
  onClose: () => void;
}

interface Source {
  key: string;
  label: string;
  read: () => Promise<Part | Problem[]>;
}

/** Dialog: a variant from another part, another construction or a file. */
export function FromElsewhere({ document, part, keep, onClose }: Props) {
  const shelf = useShelf();
  const { airframeId } = useParams();
  const constructions = useConstructions();
  const [filed, setFiled] = useState<Source[]>([]);
  const [busy, setBusy] = useState("");
  const [problems, setProblems] = useState<Problem[]>([]);
  const fits = (other: Part) => other.kind === part.kind;
  const parts = (shelf.data ?? []).flatMap((a) =>
    (a.document.parts ?? [])
      .filter((p) => fits(p) && !(a.id === airframeId && p.id === part.id))
      .map((p) => ({
        key: `${a.id}/${p.id}`,
        label: `${a.document.name}: ${p.name}`,
        read: () => Promise.resolve(p),
      })),
  );
  const built = (constructions.data ?? [])
    .filter((c) => c.kind === part.kind)
    .map((c) => ({ key: c.key, label: c.title, read: () => sizedIn(c.key, document, part) }));
  const take = async (source: Source) => {
    setBusy(source.key);
    setProblems([]);
    const found = await source.read();
    const trouble = Array.isArray(found) ? null : await keep(found, source.label.slice(0, 60));
    setBusy("");
    if (Array.isArray(found)) setProblems(found);
    else if (trouble === null) onClose();
    else setProblems([{ path: "", message: trouble }]);
  };
  const open = async (file: File) => {
    setProblems([]);
    const found = readFile(await file.text()).filter((s) => fits(s.part));
    setFiled(found.map(({ key, label, part: p }) => ({ key, label, read: () => Promise.resolve(p) })));
    if (!found.length)
      setProblems([
        { path: "", message: `No part of this type in ${file.name}. Choose an airframe file of Fletcher.` },
      ]);
  };
  return (
    <Modal
      title="Variant from elsewhere"
      says="It appears beside your part under the same loads. Your part stays as it is."
      wide={44}
      onClose={onClose}
    >
      {problems.length > 0 && (
        <div role="alert" className="mt-3 border-l-[3px] border-fail pl-3">
          <ProblemList problems={problems} />
        </div>
      )}
      <Sources title="Another part" sources={parts} none="No other part of this type." {...{ busy, take }} />
      <Sources
        title="Another construction, sized to these loads"
        sources={built}
        none="No construction for this type."
        {...{ busy, take }}
      />
      <Sources
        title="A file"
        sources={filed}
        none="An airframe file, with its variants."
        {...{ busy, take }}
      />
      <div className="mt-3 flex justify-between">
        <FileButton
          label="Open file"
          name="File with a variant"
          accept=".json,application/json"
          onFile={(file) => void open(file)}
        />
        <button type="button" className="key-button" onClick={onClose}>
          Cancel
        </button>
      </div>
    </Modal>
  );
}

interface SourcesProps {
  title: string;
  sources: Source[];
  none: string;
  busy: string;
  take: (source: Source) => Promise<void>;
}

function Sources({ title, sources, none, busy, take }: SourcesProps) {
  return (
    <section aria-label={title} className="mt-4">
      <h3 className="label-type border-b border-ink">{title}</h3>
      {sources.length === 0 && <p className="py-2 text-soft">{none}</p>}
      <ul className="max-h-60 overflow-y-auto">
        {sources.map((s) => (
          <li key={s.key} className="flex items-center justify-between gap-3 border-b border-rule py-1">
            <span className="min-w-0 wrap-anywhere">{s.label}</span>
            <button
              type="button"
              className="key-button shrink-0"
              disabled={busy !== ""}
              aria-label={`Keep as variant: ${s.label}`}
              onClick={() => void take(s)}
            >
              {busy === s.key ? "Working…" : "Keep as variant"}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The part in another construction: same span and chords, same loads, its lay-up grown or thinned until it holds. */
async function sizedIn(key: string, document: Airframe, part: Part): Promise<Part | Problem[]> {
  const body = { document, part_id: part.id, case_id: part.cases[0]!.id, key };
  const found = await api.POST("/api/studies/in-construction", { body });
  return found.data ? found.data.part : problemsOf(found.error);
}

/** The parts and variants in the text of an airframe file; none where it is no such file. */
function readFile(text: string): { key: string; label: string; part: Part }[] {
  try {
    const file = JSON.parse(text) as Airframe & {
      variants?: { part_id: string; name: string; document: Airframe }[];
    };
    const own = (file.parts ?? []).map((p) => ({ key: p.id, label: `${file.name}: ${p.name}`, part: p }));
    const kept = (file.variants ?? []).flatMap((v, i) =>
      (v.document.parts ?? [])
        .filter((p) => p.id === v.part_id)
        .map((p) => ({ key: `${i}-${p.id}`, label: `${file.name}: ${v.name}`, part: p })),
    );
    return [...own, ...kept];
  } catch {
    return [];
  }
}
