import { useId, useState } from "react";
import { api, problemsOf, type Part } from "../../../api/client";

interface Props {
  change: (edit: (part: Part) => Part) => void;
}

/** Takes the outline of the part from a coordinate file; what is wrong with a file is told by its line. */
export function AerofoilFile({ change }: Props) {
  const id = useId();
  const [trouble, setTrouble] = useState<string[]>([]);
  const read = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > 100_000) {
      setTrouble(["This file is too large for an aerofoil (limit 100 kB)."]);
      return;
    }
    const { data, error } = await api.POST("/api/studies/aerofoil", { body: { text: await file.text() } });
    if (!data) {
      setTrouble(problemsOf(error).map((p) => `${p.path} ${p.message}`));
      return;
    }
    setTrouble([]);
    const thick = (chord: number) => Math.round(chord * data.thickness_ratio * 10) / 10;
    change((p) => ({
      ...p,
      section: data.section,
      root_thickness_mm: thick(p.root_chord_mm),
      tip_thickness_mm: thick(p.tip_chord_mm),
    }));
  };
  return (
    <div className="col-span-full grid gap-1">
      <label htmlFor={id} className="label-type text-small">
        Aerofoil from file
      </label>
      <input
        id={id}
        type="file"
        accept=".dat,.txt,.csv,text/plain"
        className="field-box py-2 file:mr-3 file:border-0 file:bg-transparent file:font-semibold"
        aria-describedby={`${id}-hint`}
        onChange={(e) => {
          void read(e.target.files?.[0]);
          e.target.value = "";
        }}
      />
      <p id={`${id}-hint`} className={`text-note leading-snug ${trouble.length ? "text-fail" : "text-soft"}`}>
        {trouble.length
          ? trouble.join(" ")
          : "Points around from the trailing edge, or upper then lower face. Also sets the thickness."}
      </p>
    </div>
  );
}
