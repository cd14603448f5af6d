import { useState } from "react";
import { useGlossary } from "../api/queries";
import { Modal } from "../forms/Modal";

interface About {
  place: string;
  says: string[];
}

const ABOUT: [RegExp, About][] = [
  [
    /^\/$/,
    {
      place: "Shelf",
      says: [
        "Your airframes, drawn to one scale, with the verdict of each part and what to do next.",
        "Press a part to open it on the Bench, or on the Crash desk if it is damaged.",
        "A deleted airframe stays in the bin for 30 days.",
      ],
    },
  ],
  [
    /^\/new/,
    {
      place: "New airframe",
      says: [
        "Choose a type, then enter its span, mass and top speed. All parts are placed and sized so that they hold.",
        "Nothing is stored until you put it on your Shelf.",
      ],
    },
  ],
  [
    /^\/choose/,
    {
      place: "Choose a construction",
      says: [
        "Every way to build one part at your size, each sized to your loads from stock sizes.",
        "Tick your tools, foams and sheets: what needs nothing else comes first.",
        "Press a column to sort by it. The address keeps what you entered.",
      ],
    },
  ],
  [
    /^\/joints/,
    {
      place: "Joints",
      says: [
        "Choose a glue, a hinge or a hold-down for what it has to carry.",
        "Record test joints under “My glue tests”: your own results then count.",
      ],
    },
  ],
  [
    /^\/crash/,
    {
      place: "Crash desk",
      says: [
        "Press the drawing where something is damaged. The desk says whether it may fly and what is left.",
        "Then compare repairs, choose one, tick its steps and measure the result.",
        "This is a caution, not a clearance to fly.",
      ],
    },
  ],
  [
    /^\/airframe/,
    {
      place: "Whole airframe",
      says: [
        "All parts at their positions: structure mass and centre of gravity.",
        "“In space” turns the airframe and bends it under its loads.",
        "The environment applies to the materials of every part.",
      ],
    },
  ],
];

/** Dialog: what a place is for, the keys that work everywhere, and the words, to be searched. */
export function Help({ path, onClose }: { path: string; onClose: () => void }) {
  const [typed, setTyped] = useState("");
  const words = useGlossary().data ?? [];
  const about = ABOUT.find(([at]) => at.test(path))?.[1];
  const sought = typed.trim().toLowerCase();
  const found = words.filter((w) => `${w.term} ${w.plain}`.toLowerCase().includes(sought));
  return (
    <Modal title={about ? `Help: ${about.place}` : "Help"} wide={44} onClose={onClose}>
      <ul className="mt-3 grid gap-1.5 leading-snug">
        {about?.says.map((s) => (
          <li key={s}>{s}</li>
        ))}
      </ul>
      <p className="mt-3 text-body text-soft">
        Tab goes to the next control, Esc closes, ↑ and ↓ change a figure by a step. Units, colours and keys
        are in the menu at the top.
      </p>
      <section aria-label="Glossary" className="mt-5">
        <label className="grid gap-1">
          <span className="label-type border-b border-ink">Glossary</span>
          <input
            type="search"
            className="field-box mt-2"
            placeholder="Find a word"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
        </label>
        <p className="mt-1 text-small text-soft" role="status">
          {found.length === 1 ? "1 word" : `${found.length} words`}
        </p>
        <dl className="mt-1 max-h-72 overflow-y-auto" tabIndex={0} aria-label="Words">
          {found.map((w) => (
            <div key={w.key} className="border-t border-rule py-1.5 text-body leading-snug">
              <dt className="font-label font-semibold">{w.term}</dt>
              <dd>
                {w.plain} {w.more && <span className="text-soft">{w.more}</span>}
              </dd>
            </div>
          ))}
        </dl>
      </section>
      <button type="button" className="key-button mt-4" onClick={onClose}>
        Close
      </button>
    </Modal>
  );
}
