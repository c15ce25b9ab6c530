import { useEffect, useState } from "react";

/** A value as soon as it has not changed for a moment. */
export function useSettled(value: string, millis: number): string {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), millis);
    return () => clearTimeout(timer);
  }, [value, millis]);
  return settled;
}
