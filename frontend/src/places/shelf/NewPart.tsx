import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, problemsOf, type AirframeOut, type Construction, type Problem } from "../../api/client";
import { useCatalogue, useConstructions } from "../../api/queries";
import { Choice, NumberField, TextField } from "../../forms/fields";
import { show } from "../../forms/units";
import { barOptions } from "../../part/materialOptions";
import { putPart } from "./putPart";

type Size = Construction["size"];

/** The few sizes that a part starts from: field, what it is called, and what it is called on a fuselage. */
const SIZES: [keyof Size, string, string][] = [
  ["span_mm", "Span", "Length"],
  ["root_chord_mm", "Root chord", "Width at front end"],
  ["tip_chord_mm", "Tip chord", "Width at rear end"],
  ["root_thickness_mm", "Root thickness", "Height at front end"],
  ["tip_thickness_mm", "Tip thickness", "Height at rear end"],
];

const KINDS: Record<Construction["kind"], string> = {
  wing: "Wings",
  tail: "Tail surfaces",
  surface: "Control surfaces",
  fuselage: "Fuselages",
  plank: "Test pieces",
};

interface Props {
  into: AirframeOut | null;
  onClose: () => void;
  /** It broke and is not on the shelf yet: sketched here, then marked on the crash desk. */
  broken?: boolean;
}

/** Dialog: a part in one construction at a size, into an airframe or as the first part of a new one. */
export function NewPart({ into, onClose, broken = false }: Props) {
  const ways = useConstructions();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [key, setKey] = useState<string | null>(null);
  const [partName, setPartName] = useState("");
  const [airframeName, setAirframeName] = useState("");
  const [ownMass, setMass] = useState<number | null>(null);
  const [ownSpeed, setSpeed] = useState<number | null>(null);
  const [ownSize, setSize] = useState<Partial<Size>>({});
  const [spar, setSpar] = useState("");
  const [problems, setProblems] = useState<Problem[]>([]);
  const chosen = ways.data?.find((p) => p.key === key) ?? ways.data?.[0];
  const at = (field: string) => problems.find((p) => p.path.endsWith(field));
  const size = { ...chosen?.size, ...ownSize } as Size;
  const mass = into?.document.all_up_mass_g ?? ownMass ?? chosen?.all_up_mass_g ?? 900;
  const speed = into?.document.top_speed_m_s ?? ownSpeed ?? chosen?.top_speed_m_s ?? 20;

  const create = async () => {
    if (!chosen) return;
    const built = await api.POST("/api/stock/construct", {
      body: { key: chosen.key, size, all_up_mass_g: mass, top_speed_m_s: speed, spar: spar || null },
    });
    if (!built.data) {
      setProblems(problemsOf(built.error));
      return;
    }
    const put = await putPart(
      { ...built.data.part, name: partName.trim() || chosen.name },
      into ?? {
        name: airframeName,
        all_up_mass_g: mass,
        top_speed_m_s: speed,
        ...(broken && { state: "broken" }),
      },
      queries,
      broken ? "crash" : "bench",
    );
    if ("to" in put) void navigate(put.to);
    else setProblems(put.problems);
  };

  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/45" />
        <Dialog.Content className="fixed top-1/2 left-1/2 max-h-[92dvh] w-[min(62rem,96vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-sheet p-7">
          <Dialog.Title className="text-title font-bold">
            {into ? `Add a part to ${into.document.name}` : broken ? "What is damaged?" : "New airframe"}
          </Dialog.Title>
          <Dialog.Description className="mt-1 text-soft">
            Start from what comes closest; everything can be changed on the bench.{" "}
            {!broken && (
              <Link
                to={into ? `/choose?into=${into.id}` : "/choose"}
                className="text-pick underline"
                onClick={onClose}
              >
                Not sure? Let all constructions be compared
              </Link>
            )}
          </Dialog.Description>
          <div className="mt-5 grid gap-6 md:grid-cols-[minmax(0,1fr)_25rem]">
            <Constructions
              ways={ways.data ?? []}
              chosen={chosen?.key}
              choose={(to) => {
                setKey(to);
                setSize({});
                setSpar("");
                setProblems([]);
              }}
            />
            <form
              action={create}
              className="grid content-start grid-cols-2 items-start gap-4 max-sm:grid-cols-1"
            >
              {chosen && (
                <p className="col-span-full border-b border-rule pb-3 leading-snug">
                  <span className="block font-semibold">{chosen.title}</span>
                  <span className="text-body text-soft">{chosen.why}</span>
                </p>
              )}
              {!into && (
                <>
                  <TextField
                    label="Airframe name"
                    value={airframeName}
                    placeholder="New airframe"
                    onChange={setAirframeName}
                  />
                  <NumberField
                    label="All-up mass"
                    value={mass}
                    quantity="mass"
                    step={10}
                    problem={at("all_up_mass_g")}
                    onChange={setMass}
                  />
                  <NumberField
                    label="Top speed"
                    value={speed}
                    quantity="speed"
                    problem={at("top_speed_m_s")}
                    onChange={setSpeed}
                  />
                </>
              )}
              {chosen &&
                SIZES.map(([field, label, bodyLabel]) => (
                  <NumberField
                    key={chosen.key + field}
                    label={chosen.kind === "fuselage" ? bodyLabel : label}
                    value={size[field]}
                    quantity="length"
                    step={field === "span_mm" ? 10 : 1}
                    problem={at(field)}
                    hint={
                      field === "span_mm" && chosen.kind === "wing"
                        ? `full span ${show(2 * size.span_mm, "length", 4)}`
                        : undefined
                    }
                    onChange={(v) => setSize((s) => ({ ...s, [field]: v }))}
                  />
                ))}
              {chosen?.spar && <Spar value={spar} onChange={setSpar} />}
              <TextField
                label="Part name"
                value={partName}
                placeholder={chosen?.name}
                onChange={setPartName}
              />
              <div className="col-span-full flex items-center gap-3">
                <button type="submit" className="key-button" disabled={!chosen}>
                  {broken ? "Mark the damage" : "Create part"}
                </button>
                <Dialog.Close className="key-button border-transparent">Cancel</Dialog.Close>
                <p role="alert" className="text-fail">
                  {problems
                    .filter((p) => !SIZES.some(([field]) => p.path.endsWith(field)))
                    .map((p) => p.message)
                    .join(" ")}
                </p>
              </div>
            </form>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Which bar it has. */
function Spar({ value, onChange }: { value: string; onChange: (key: string) => void }) {
  const catalogue = useCatalogue().data;
  const usual = [
    { value: "", label: "usual at this size" },
    { value: "none", label: "none" },
  ];
  const options = [...usual, ...(catalogue ? barOptions(catalogue) : [])];
  return <Choice<string> label="Spar" value={value} options={options} onChange={onChange} />;
}

interface ListProps {
  ways: Construction[];
  chosen: string | undefined;
  choose: (key: string) => void;
}

/** All constructions, by what they are for. */
function Constructions({ ways, chosen, choose }: ListProps) {
  return (
    <fieldset className="min-h-0 overflow-y-auto pr-1 md:max-h-[70dvh]">
      <legend className="sr-only">Construction</legend>
      {Object.entries(KINDS).map(([kind, title]) => (
        <div key={kind}>
          <h3 className="label-type mt-3 text-small text-soft">{title}</h3>
          {ways
            .filter((p) => p.kind === kind)
            .map((p) => (
              <label
                key={p.key}
                className="flex min-h-11 gap-3 border-t border-rule py-2.5 last:border-b has-checked:bg-pick-wash"
              >
                <input
                  type="radio"
                  name="construction"
                  className="mt-1 ml-2 size-4 accent-(--pick)"
                  checked={p.key === chosen}
                  onChange={() => choose(p.key)}
                />
                <span>
                  <span className="font-semibold">{p.title}</span>
                </span>
              </label>
            ))}
        </div>
      ))}
    </fieldset>
  );
}
