import { useEffect, useState } from "react";

/** A value that follows when it has rested for a while. */
export function useSettled<T>(value: T, quiet = 400): T {
  const [settled, settle] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => settle(value), quiet);
    return () => clearTimeout(timer);
  }, [value, quiet]);
  return settled;
}
