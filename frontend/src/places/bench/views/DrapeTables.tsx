import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, problemsOf, type Schemas } from "../../../api/client";
import { NumberField } from "../../../forms/fields";
import { Word } from "../../../words/Word";
import { plain, show } from "../../../forms/units";
import { Table } from "../../../words/Table";

type Drape = Schemas["Drape"];

const LIES: Record<string, string> = { yes: "✓ lies", just: "≈ with care", no: "✕ wrinkles" };

/** Which skin lies on which face, and on a place with two radii of one's own. */
export function DrapeTables({ surfaces }: { surfaces: Schemas["Surface"][] }) {
  return (
    <>
      <h2 className="mt-6 border-b border-ink text-lead font-semibold">
        <Word k="drape">Which skins lie without wrinkles?</Word>
      </h2>
      {surfaces.map((s) => (
        <div key={s.face} className="border-b border-rule py-2">
          <p className="text-body">
            <strong>{s.face === "upper" ? "Upper face" : "Lower face"}</strong>: {kindWords(s)}
          </p>
          {s.kind === "double" && <DrapeTable drapes={s.drapes} label={`Skins on the ${s.face} face`} />}
        </div>
      ))}
      <OwnPlace />
    </>
  );
}

function kindWords(s: Schemas["Surface"]): string {
  if (s.kind === "flat") return "Flat: any skin lies in one piece.";
  if (s.kind === "single")
    return `single curvature, tightest radius ${show(s.radius_mm, "length", 2)}: any skin lies in one piece.`;
  return `double curvature, like a ball of radius ${show(s.ball_mm ?? 0, "length", 2)}.`;
}

function DrapeTable({ drapes, label }: { drapes: Drape[]; label: string }) {
  return (
    <Table caption={label} heads={["Skin", "Stretch needed", "available", "result"]}>
      {drapes.map((d) => (
        <tr key={d.skin} className={`border-b border-rule ${d.line_ids.length ? "bg-pick-wash" : ""}`}>
          <th scope="row" className="py-1 text-left font-semibold">
            {d.skin}
            {d.line_ids.length > 0 && <span className="font-normal text-soft"> in this lay-up</span>}
          </th>
          <td className="figure-type pl-3 text-right">{plain(d.asks_percent, 2)} %</td>
          <td className="figure-type pl-3 text-right">
            {d.gives_percent >= 100 ? "any" : `${plain(d.gives_percent, 2)} %`}
          </td>
          <td className={`py-1 pl-3 ${d.lies === "no" ? "text-fail" : ""}`}>
            {LIES[d.lies]}: <span className="text-ink">{d.says}</span>
          </td>
        </tr>
      ))}
    </Table>
  );
}

/** A wing tip, a cowl, a fillet: any place with two radii. */
function OwnPlace() {
  const [place, setPlace] = useState({ first_radius_mm: 60, second_radius_mm: 250, width_mm: 80 });
  const study = useQuery({
    queryKey: ["drape", place],
    queryFn: async () => {
      const { data, error } = await api.POST("/api/studies/drape", { body: place });
      if (!data) throw new Error(problemsOf(error)[0]!.message);
      return data;
    },
    retry: false,
    placeholderData: (before) => before,
  });
  const set = (key: keyof typeof place) => (v: number) => setPlace({ ...place, [key]: v });
  return (
    <details className="border-b border-rule">
      <summary className="min-h-10 cursor-pointer py-2 font-semibold">
        Your own curve (tip, cowl, fillet)
      </summary>
      <div className="grid max-w-xl grid-cols-3 gap-x-4 pb-2">
        <NumberField
          label="First radius"
          value={place.first_radius_mm}
          quantity="length"
          step={5}
          onChange={set("first_radius_mm")}
        />
        <NumberField
          label="Second radius"
          value={place.second_radius_mm}
          quantity="length"
          step={5}
          hint="negative = hollow"
          onChange={set("second_radius_mm")}
        />
        <NumberField
          label="Skin width"
          value={place.width_mm}
          quantity="length"
          step={5}
          onChange={set("width_mm")}
        />
      </div>
      {study.isError && <p className="text-fail">{study.error.message}</p>}
      {study.data && !study.isError && <DrapeTable drapes={study.data} label="Skins on this curve" />}
    </details>
  );
}
