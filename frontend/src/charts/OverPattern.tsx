/** The pattern that marks more than its strength: hatched, so that it reads without colour. */
export function OverPattern() {
  return (
    <defs>
      <pattern id="over" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="6" height="6" fill="var(--fail-wash)" />
        <rect width="2.6" height="6" fill="var(--fail)" />
      </pattern>
    </defs>
  );
}
