/** How to measure bend and twist that stayed, left against right. */
export function Measure() {
  return (
    <details className="mx-5 border-b border-rule">
      <summary className="min-h-10 cursor-pointer py-2 font-semibold">
        How to measure a bent or twisted part
      </summary>
      <ol className="max-w-prose list-decimal pb-3 pl-5 text-body leading-snug">
        <li>
          Lay the part on a flat table, lower face down, and weigh down the first quarter from the root.
        </li>
        <li>
          Bend: measure the height of the tip’s lower face at the spar. Do the same with the other half,
          mirrored. The difference is the tip offset; up is positive.
        </li>
        <li>
          Twist: lay a straight stick along the chord at the root and at the tip, both overhanging the rear
          edge by the same amount. Sight along them from behind, or measure the height of the tip stick at
          both ends: difference ÷ length × 57 is the twist in degrees; nose up is positive.
        </li>
        <li>
          Measure both halves the same way, twice, and use the difference between them, not one half alone.
        </li>
        <li>Less than 1 mm of bend or 0.5° of twist is within the accuracy of a table.</li>
      </ol>
    </details>
  );
}
