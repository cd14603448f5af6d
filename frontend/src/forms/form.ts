import { useState } from "react";
import type { Problem } from "../api/client";

/** One field of a form: what it holds, what is wrong with it, and how it is changed; spread into an input. */
export interface Field<V> {
  value: V;
  problem: Problem | undefined;
  onChange: (value: V) => void;
}

/** What is filled in, field by field; every field has the type that its value has. */
export interface Form<T> {
  value: T;
  field: <K extends keyof T>(key: K) => Field<T[K]>;
  set: <K extends keyof T>(key: K, value: T[K]) => void;
  /** Changes several fields at once. */
  replace: (edit: (now: T) => T) => void;
  /** What is wrong with a field, or with something inside it, by its path. */
  at: (path: string) => Problem | undefined;
}

/** The fields of any of several kinds of thing, and what each holds. */
type KeyOf<T> = T extends unknown ? keyof T & string : never;
type ValueAt<T, K extends PropertyKey> = T extends unknown ? (K extends keyof T ? T[K] : never) : never;
/** The fields that hold a number. */
export type NumberKey<T> = T extends unknown
  ? { [K in keyof T & string]-?: T[K] extends number ? K : never }[keyof T & string]
  : never;

/** Changes one field of whichever kind of thing this is: the field first, then what it is to hold. */
export type Setter<T> = <K extends KeyOf<T>>(key: K) => (value: ValueAt<T, K>) => void;

export function setterOf<T extends object>(value: T, change: (next: T) => void): Setter<T> {
  return (key) => (next) => change({ ...value, [key]: next });
}

/** A field that holds a number in some of these kinds of thing; null in those that have no such field. */
export function numberAt<T extends object>(of: T, key: NumberKey<T>): number | null {
  return key in of ? (of as Record<NumberKey<T>, number>)[key] : null;
}

/** A form over something that is kept elsewhere: a part, a line of the lay-up. */
export function formOf<T extends object>(
  value: T,
  change: (edit: (now: T) => T) => void,
  at: (path: string) => Problem | undefined,
): Form<T> {
  const set = <K extends keyof T>(key: K, next: T[K]) => change((now) => ({ ...now, [key]: next }));
  return {
    value,
    set,
    at,
    replace: change,
    field: (key) => ({ value: value[key], problem: at(String(key)), onChange: (next) => set(key, next) }),
  };
}

/** A form of its own. */
export function useForm<T extends object>(
  first: T | (() => T),
  at: (path: string) => Problem | undefined = () => undefined,
): Form<T> {
  const [value, replace] = useState<T>(first);
  return formOf(value, replace, at);
}
