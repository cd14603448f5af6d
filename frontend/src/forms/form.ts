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
