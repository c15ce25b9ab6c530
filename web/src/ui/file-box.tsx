import type { Control } from "./basics";

type Props = Partial<Control> & { multiple?: boolean; accept?: string; onFiles: (files: File[]) => void };

/** Chooses files of this machine. */
export function FileBox({ onFiles, ...rest }: Props) {
  return (
    <input
      {...rest}
      type="file"
      onChange={(e) => onFiles([...(e.target.files ?? [])])}
      className="w-full text-sm text-faint file:mr-3 file:h-8 file:cursor-pointer file:rounded file:border file:border-solid file:border-line file:bg-card file:px-3 file:text-sm file:text-ink hover:file:border-pine"
    />
  );
}
