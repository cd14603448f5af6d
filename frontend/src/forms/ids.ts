/** An id made from a stem that is not among the taken ones: "line", "line-2", … */
export function freshId(stem: string, taken: string[]): string {
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}-${n}`;
    if (!taken.includes(id)) return id;
  }
}

/** An id that no other device makes; browsers offer one ready-made only on secure addresses. */
export function ownUuid(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6]! & 0x0f) | 0x40;
  bytes[8] = (bytes[8]! & 0x3f) | 0x80;
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, "0")).join("");
  return [0, 8, 12, 16, 20].map((at, n, ends) => hex.slice(at, ends[n + 1] ?? 32)).join("-");
}
