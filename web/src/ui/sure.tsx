import clsx from "clsx";

/** How sure a proposal is: a word and a colour together. */
export function Sure({ word }: { word: string }) {
  return (
    <span
      className={clsx(
        "inline-block w-14 rounded px-1.5 text-center text-xs leading-5 font-semibold",
        word === "sure" && "bg-pine-wash text-moss",
        word === "likely" && "bg-sunk text-ink",
        word === "unsure" && "bg-ochre-wash text-ochre",
      )}
    >
      {word}
    </span>
  );
}
