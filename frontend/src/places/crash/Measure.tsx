/** How to measure bend and twist that stayed, left against right. */
export function Measure() {
  return (
    <details className="mx-5 border-b border-rule">
      <summary className="min-h-10 cursor-pointer py-2 font-semibold">
        How to measure bend and twist that stayed
      </summary>
      <ol className="max-w-prose list-decimal pb-3 pl-5 text-body leading-snug">
        <li>Lay the root on a flat table, weighted down over its first quarter, the lower face down.</li>
        <li>
          Bend: measure the height of the tip’s underside at the bars. Do the same with the other half,
          mirrored. The difference is what the tip stands off; up counts positive.
        </li>
        <li>
          Twist: lay a straight stick along the chord at root and tip, both sticking out behind by the same
          length. Sight along them from behind, or measure the heights of the tip’s stick at both ends: the
          difference over its length, times 57, is the twist in degrees; nose up counts positive.
        </li>
        <li>
          Measure both halves the same way, twice, and take the difference of the halves, not one half alone.
        </li>
        <li>Under a millimetre in the bend and half a degree in the twist are within what a table shows.</li>
      </ol>
    </details>
  );
}
