import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, must, problemsOf, type AirframeOut, type Preset } from "../api/client";
import { NumberField, TextField } from "../shared/fields";
import { freshId } from "../shared/ids";

/** Dialog: a part from a preset, into an airframe or as the first part of a new one. */
export function NewPart({ into, onClose }: { into: AirframeOut | null; onClose: () => void }) {
  const presets = useQuery({ queryKey: ["presets"], queryFn: () => must(api.GET("/api/presets")) });
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [key, setKey] = useState<string | null>(null);
  const [partName, setPartName] = useState("");
  const [airframeName, setAirframeName] = useState("");
  const [mass, setMass] = useState(900);
  const [trouble, setTrouble] = useState("");
  const chosen: Preset | undefined = presets.data?.find((p) => p.key === key) ?? presets.data?.[0];

  const create = async () => {
    if (!chosen) return;
    const parts = into?.document.parts ?? [];
    const id = freshId(
      chosen.part.id,
      parts.map((p) => p.id),
    );
    const part = { ...chosen.part, id, name: partName.trim() || chosen.part.name };
    const answer = into
      ? await api.PUT("/api/airframes/{airframe_id}", {
          params: { path: { airframe_id: into.id } },
          body: { revision: into.revision, document: { ...into.document, parts: [...parts, part] } },
        })
      : await api.POST("/api/airframes", {
          body: {
            format: "fletcher-airframe",
            version: 1,
            name: airframeName.trim() || "New airframe",
            state: "building",
            all_up_mass_g: mass,
            top_speed_m_s: 20,
            note: "",
            parts: [part],
          },
        });
    if (answer.data) {
      queries.removeQueries({ queryKey: ["airframe", answer.data.id] });
      void navigate(`/bench/${answer.data.id}/${id}`);
    } else if (answer.response.status === 409) {
      await queries.invalidateQueries({ queryKey: ["airframes"] });
      setTrouble("This airframe was changed elsewhere meanwhile. Close this, look, and try again.");
    } else {
      setTrouble(
        problemsOf(answer.error)
          .map((p) => `${p.path} ${p.message}`)
          .join(" "),
      );
    }
  };

  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/45" />
        <Dialog.Content className="fixed top-1/2 left-1/2 max-h-[90dvh] w-[min(44rem,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-sheet p-7">
          <Dialog.Title className="text-xl font-bold">
            {into ? `Add a part to ${into.document.name}` : "New airframe"}
          </Dialog.Title>
          <Dialog.Description className="mt-1 text-soft">
            Start from what comes closest; everything can be changed on the bench.
          </Dialog.Description>
          <fieldset className="mt-5">
            <legend className="sr-only">Preset</legend>
            {presets.data?.map((p) => (
              <label
                key={p.key}
                className="flex gap-3 border-t border-rule py-3 last:border-b has-checked:bg-pick-wash"
              >
                <input
                  type="radio"
                  name="preset"
                  className="mt-1 ml-2 size-4 accent-(--pick)"
                  checked={p.key === chosen?.key}
                  onChange={() => setKey(p.key)}
                />
                <span>
                  <span className="font-semibold">{p.title}</span>
                  <span className="block text-[0.9rem] leading-snug text-soft">{p.why}</span>
                </span>
              </label>
            ))}
          </fieldset>
          <form action={create} className="mt-5 grid grid-cols-2 items-start gap-4 max-sm:grid-cols-1">
            {!into && (
              <>
                <TextField
                  label="Name of the airframe"
                  value={airframeName}
                  placeholder="New airframe"
                  onChange={setAirframeName}
                />
                <NumberField
                  label="All-up flying mass"
                  value={mass}
                  quantity="mass"
                  step={10}
                  onChange={setMass}
                />
              </>
            )}
            <TextField
              label="Name of the part"
              value={partName}
              placeholder={chosen?.part.name}
              onChange={setPartName}
            />
            <div className="col-span-full flex items-center gap-3">
              <button type="submit" className="key-button" disabled={!chosen}>
                Put it on the bench
              </button>
              <Dialog.Close className="key-button border-transparent">Cancel</Dialog.Close>
              <p role="alert" className="text-fail">
                {trouble}
              </p>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
