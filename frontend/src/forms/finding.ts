interface Option {
  value: string;
  label: string;
  group?: string;
}

const bare = (text: string) => text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();

/** The options that have every typed word in their name or group, those whose name begins with the first word first.
 * Each once, in the order of the list. */
export function found<O extends Option>(options: readonly O[], typed: string): O[] {
  const words = bare(typed).split(/\s+/).filter(Boolean);
  const once = options.filter((o, i) => options.findIndex((p) => p.value === o.value) === i);
  const fits = once.filter((o) => {
    const text = bare(`${o.group ?? ""} ${o.label}`);
    return words.every((w) => text.includes(w));
  });
  const begins = (o: O) => words.length > 0 && bare(o.label).startsWith(words[0]!);
  return [...fits.filter(begins), ...fits.filter((o) => !begins(o))];
}
