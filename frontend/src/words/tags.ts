const tags = new WeakMap<object, number>();
let last = 0;

/** A number for an object that is never changed in place: a key that costs nothing, where its text would be long. */
export function tagOf(thing: object): number {
  const known = tags.get(thing);
  if (known !== undefined) return known;
  tags.set(thing, ++last);
  return last;
}
