/** How an edit stands that keeps itself: kept, on its way, or not kept and why. */
export type Keeping = "kept" | "keeping" | { trouble: string };

/**
 * What every editor says of its edits, in the same words: whether they are kept, and what has not been done with them yet,
 * such as "not live yet".
 */
export function Standing({ keeping, next, retry }: { keeping: Keeping; next?: string; retry?: () => void }) {
  if (keeping === "keeping") return <span role="status">Keeping…</span>;
  if (keeping !== "kept")
    return (
      <span role="status" className="text-brick">
        Not kept: {keeping.trouble}
        {retry && (
          <button type="button" className="ml-2 underline" onClick={retry}>
            Try again
          </button>
        )}
      </span>
    );
  return (
    <span role="status" className={next ? "text-ochre" : ""}>
      {next ? `Kept, ${next}` : "Kept"}
    </span>
  );
}
