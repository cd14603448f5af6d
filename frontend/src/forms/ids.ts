/** An id made from a stem that is not among the taken ones: "line", "line-2", … */
export function freshId(stem: string, taken: string[]): string {
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}-${n}`;
    if (!taken.includes(id)) return id;
  }
}
