import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";

/** A list of lines of which only those in sight are drawn; scrolls to the one that is lit up. */
export function useLines(size: number, lit: number, height = 24) {
  const scroll = useRef<HTMLDivElement>(null);
  const lines = useVirtualizer({
    count: size,
    getScrollElement: () => scroll.current,
    estimateSize: () => height,
    overscan: 20,
  });
  useEffect(() => {
    if (lit >= 0) lines.scrollToIndex(lit, { align: "auto" });
  }, [lit, lines]);
  return { scroll, lines };
}

/** Arrow keys move what is lit up. */
export function moved(key: string, at: number, size: number): number | undefined {
  if (key === "ArrowDown") return Math.min(size - 1, at + 1);
  if (key === "ArrowUp") return Math.max(0, at - 1);
  return undefined;
}
