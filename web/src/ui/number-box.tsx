import { type ComponentProps, useEffect, useState } from "react";
import { TextBox } from "./basics";

type Props = Omit<ComponentProps<typeof TextBox>, "value" | "onChange" | "problem"> & {
  value: number | undefined;
  onChange: (value: number | undefined) => void;
  /** The least that it may be. */
  least?: number;
};

/** A whole number, or none. What is typed and is no number changes nothing, and says so. */
export function NumberBox({ value, onChange, least = 0, ...rest }: Props) {
  const [odd, setOdd] = useState<string>();
  useEffect(() => setOdd(undefined), [value]);
  const type = (text: string) => {
    const typed = text.trim();
    const number = Number(typed);
    if (typed === "") {
      setOdd(undefined);
      onChange(undefined);
    } else if (/^\d+$/.test(typed) && Number.isSafeInteger(number) && number >= least) {
      setOdd(undefined);
      onChange(number);
    } else {
      setOdd(text);
    }
  };
  const stays = value === undefined ? "none" : String(value);
  return (
    <TextBox
      {...rest}
      inputMode="numeric"
      data
      value={odd ?? (value === undefined ? "" : String(value))}
      onChange={type}
      problem={odd === undefined ? undefined : `No whole number${least ? ` from ${least} on` : ""}: ${stays} stays.`}
    />
  );
}
