import { memo } from "react";
import { Slider } from "radix-ui";
import type { Estimate } from "../../../api/client";
import { plain } from "../../../forms/units";

interface Props {
  estimate: Estimate;
  load: number;
  most: number;
  setLoad: (load: number) => void;
}

/** From nothing to failure: the drawing follows, with a mark where something changes and a bold one where it breaks. */
export const LoadSlider = memo(function LoadSlider({ estimate, load, most, setLoad }: Props) {
  const { name, value, unit } = estimate.measure;
  const worth = `${name} ${plain(load * value)} ${unit}`;
  return (
    <div className="flex min-w-72 flex-1 items-center gap-4">
      <Slider.Root
        className="relative flex h-11 min-w-40 flex-1 touch-none items-center"
        value={[load]}
        min={0}
        max={most}
        step={0.01}
        onValueChange={([v]) => setLoad(v!)}
      >
        <Slider.Track className="relative h-[3px] flex-1 bg-ink">
          {estimate.failures
            .filter((f) => f.comes_at.typ <= most)
            .map((f, i) => (
              <span
                key={i}
                title={f.sentence}
                className={`absolute ${f.breaks ? "-top-[9px] h-[21px] w-[3px] bg-fail" : "-top-[6px] h-[15px] w-[2px] bg-soft"}`}
                style={{ left: `${(100 * f.comes_at.typ) / most}%` }}
              />
            ))}
          <span
            className="absolute -top-[5px] h-[13px] w-px bg-ink"
            style={{ left: `${100 / most}%` }}
            title="this load (1 ×)"
          />
        </Slider.Track>
        <Slider.Thumb
          aria-label="Load shown, × this load"
          className="grid size-10 place-items-center rounded-full after:size-5 after:rounded-full after:border-[3px] after:border-pick after:bg-raised"
        />
      </Slider.Root>
      <span className="label-type min-w-44 text-body whitespace-nowrap">
        {load.toFixed(2)} × this load, {worth}
      </span>
    </div>
  );
});
