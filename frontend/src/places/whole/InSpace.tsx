import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { api, must, type Airframe, type Estimate, type Part } from "../../api/client";
import { useWidth } from "../../charts/useWidth";
import { plain } from "../../forms/units";
import { tagOf } from "../../words/tags";
import { drawSpace, HEIGHT } from "./drawSpace";
import { facesOf } from "./spaceModel";

const MOST_LOAD = 3;

/** The airframe in space, to be turned: its sections, what is bonded on them, the spars in them; bent by its loads. */
export function InSpace({ document }: { document: Airframe }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [turn, setTurn] = useState(-35);
  const [tilt, setTilt] = useState(28);
  const [load, setLoad] = useState(1);
  const grip = useRef<{ x: number; y: number; turn: number; tilt: number } | null>(null);
  const parts = useMemo(() => drawnOf(document), [document]);
  const estimates = useEstimates(document, parts);
  const faces = useMemo(
    () =>
      parts.flatMap((p) => {
        const told = estimates.data?.get(p.id);
        return told ? facesOf(p, told, load) : [];
      }),
    [parts, estimates.data, load],
  );
  useEffect(() => {
    if (canvas.current && width > 0) drawSpace(canvas.current, faces, width, turn, tilt);
  }, [faces, width, turn, tilt]);
  const turnBy = (dx: number, dy: number) => {
    setTurn((t) => t + dx);
    setTilt((t) => Math.max(-90, Math.min(90, t + dy)));
  };
  const keys = (e: KeyboardEvent) => {
    const by = { ArrowLeft: [-5, 0], ArrowRight: [5, 0], ArrowUp: [0, 5], ArrowDown: [0, -5] }[e.key];
    if (!by) return;
    e.preventDefault();
    turnBy(by[0]!, by[1]!);
  };
  if (!parts.length) return <p className="py-10 text-soft">No parts yet. Add a part with “+”.</p>;
  const move = (e: PointerEvent) => {
    const from = grip.current;
    if (!from) return;
    setTurn(from.turn + 0.5 * (e.clientX - from.x));
    setTilt(Math.max(-90, Math.min(90, from.tilt + 0.5 * (e.clientY - from.y))));
  };
  return (
    <div ref={ref} className="min-w-0">
      <canvas
        ref={canvas}
        role="img"
        aria-label={`${document.name} in space, bent by ${plain(load, 2)} × the first load case of each part. Arrow keys turn it`}
        tabIndex={0}
        style={{ width, height: HEIGHT }}
        className="block cursor-grab touch-none"
        onKeyDown={keys}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          grip.current = { x: e.clientX, y: e.clientY, turn, tilt };
        }}
        onPointerMove={move}
        onPointerUp={() => (grip.current = null)}
        onPointerCancel={() => (grip.current = null)}
      />
      <div className="flex flex-wrap items-center gap-x-6 gap-y-1 pb-2 text-small">
        <label className="flex items-center gap-2">
          <span className="label-type">Load</span>
          <input
            type="range"
            min={0}
            max={MOST_LOAD}
            step={0.1}
            value={load}
            aria-valuetext={`${plain(load, 2)} × the first load case of each part`}
            className="w-44 accent-(--pick)"
            onChange={(e) => setLoad(Number(e.target.value))}
          />
          <span className="min-w-16">{plain(load, 2)} ×</span>
        </label>
        <span className="text-soft">
          {estimates.isPending
            ? "Computing the parts…"
            : estimates.isError
              ? "Not computed. Correct the marked fields."
              : "Deflection to scale, first load case of each part. Drag to turn, or use the arrow keys."}
        </span>
      </div>
    </div>
  );
}

/** What is drawn: what flies, or the test pieces where nothing does; control surfaces lie within their wings. */
function drawnOf(document: Airframe): Part[] {
  const parts = (document.parts ?? []).filter((p) => p.kind !== "surface");
  const flying = parts.filter((p) => p.kind !== "plank");
  return flying.length ? flying : parts;
}

/** The estimates of the parts in their first load case, one after another. */
function useEstimates(document: Airframe, parts: Part[]) {
  return useQuery({
    queryKey: ["in-space", tagOf(document)],
    queryFn: async ({ signal }) => {
      const found = new Map<string, Estimate>();
      for (const part of parts) {
        const body = { document, part_id: part.id, case_id: part.cases[0]!.id, quick: true };
        found.set(part.id, (await must(api.POST("/api/studies/estimate", { body, signal }))) as Estimate);
      }
      return found;
    },
    enabled: parts.length > 0,
    retry: false,
    gcTime: 60_000,
    placeholderData: (old) => old,
  });
}
