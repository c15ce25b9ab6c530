import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";

/** A list of lines of which only those in sight are drawn; brings the one that is lit up, and its lit cell, into sight. */
export function useLines(size: number, lit: number, field?: number, height = 24) {
  const scroll = useRef<HTMLDivElement>(null);
  const lines = useVirtualizer({
    count: size,
    getScrollElement: () => scroll.current,
    estimateSize: () => height,
    overscan: 20,
    scrollPaddingStart: 56,
    scrollPaddingEnd: 56,
  });
  useEffect(() => {
    if (lit < 0) return;
    lines.scrollToIndex(lit, { align: "auto" });
    const cell = setTimeout(
      () => scroll.current?.querySelector("[data-lit]")?.scrollIntoView({ block: "nearest", inline: "nearest" }),
      60,
    );
    return () => clearTimeout(cell);
  }, [lit, field, lines]);
  return { scroll, lines };
}

/** Arrow keys move what is lit up. */
export function moved(key: string, at: number, size: number): number | undefined {
  if (key === "ArrowDown") return Math.min(size - 1, at + 1);
  if (key === "ArrowUp") return Math.max(0, at - 1);
  return undefined;
}
