import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Choice } from "../../forms/fields";

/** Why not this adhesive: an answer for any of them, against the best. */
export function WhyNot({ choices }: { choices: Schemas["GlueChoice"][] }) {
  const [key, setKey] = useState("");
  const asked = choices.find((c) => c.key === key);
  const options = [...choices]
    .sort((a, b) => a.name.localeCompare(b.name))
    .map((c) => ({ value: c.key, label: c.name }));
  return (
    <section aria-label="Why not this glue" className="mt-5 grid max-w-prose gap-2">
      <Choice
        label="Why not …?"
        value={key}
        options={[{ value: "", label: "Choose an adhesive" }, ...options]}
        onChange={setKey}
      />
      <p aria-live="polite" className="min-h-6 leading-snug">
        {asked && asked.why_not}
      </p>
    </section>
  );
}
