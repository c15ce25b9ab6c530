import clsx from "clsx";
import type { ButtonHTMLAttributes, InputHTMLAttributes, ReactNode, SelectHTMLAttributes } from "react";
import { useEffect, useId, useState } from "react";

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { look?: "main" | "plain" | "quiet" | "remove" | "brick" };

export function Button({ look = "plain", className, ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      {...rest}
      className={clsx(
        "inline-flex h-8 items-center gap-1.5 rounded px-3 text-sm whitespace-nowrap disabled:opacity-50",
        look === "main" && "bg-pine font-semibold text-on-pine hover:bg-pine-deep",
        look === "plain" && "border border-line bg-card text-ink hover:border-pine",
        look === "quiet" && "text-pine hover:bg-pine-wash",
        look === "remove" && "text-brick hover:bg-brick-wash",
        look === "brick" && "border border-brick bg-card text-brick hover:bg-brick-wash",
        className,
      )}
    />
  );
}

const box = "h-8 w-full min-w-0 rounded border border-line bg-card px-2 text-sm text-ink placeholder:text-faint";

/** What a control needs so that its label, hint and problem are told with it. */
export type Control = { id: string; "aria-describedby"?: string; "aria-invalid"?: true };

/** A label above its control; a hint or a problem below. */
export function Labelled(props: {
  label: string;
  hint?: string;
  problem?: string;
  className?: string;
  children: (control: Control) => ReactNode;
}) {
  const id = useId();
  const below = props.problem || props.hint ? `${id}-below` : undefined;
  const control: Control = {
    id,
    ...(below && { "aria-describedby": below }),
    ...(props.problem && { "aria-invalid": true }),
  };
  return (
    <div className={clsx("min-w-0", props.className)}>
      <label htmlFor={id} className="mb-0.5 block text-xs text-faint">
        {props.label}
      </label>
      {props.children(control)}
      {props.problem ? (
        <p id={below} className="mt-0.5 text-xs text-brick">
          {props.problem}
        </p>
      ) : (
        props.hint && (
          <p id={below} className="mt-0.5 text-xs text-faint">
            {props.hint}
          </p>
        )
      )}
    </div>
  );
}

type TextProps = Omit<InputHTMLAttributes<HTMLInputElement>, "onChange"> & {
  label: string;
  hint?: string;
  problem?: string;
  data?: boolean;
  onChange: (value: string) => void;
};

export function TextBox({ label, hint, problem, data, onChange, className, ...rest }: TextProps) {
  return (
    <Labelled label={label} hint={hint} problem={problem} className={className}>
      {(control) => (
        <input
          {...control}
          {...rest}
          className={clsx(box, data && "data")}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Labelled>
  );
}

export type Option<V extends string = string> = { value: V; label: string };

type SelectProps<V extends string> = Omit<SelectHTMLAttributes<HTMLSelectElement>, "onChange" | "value"> & {
  label?: string;
  value?: V;
  options: readonly Option<V>[];
  onChange: (value: V) => void;
};

export function Select<V extends string>({ label, options, onChange, className, ...rest }: SelectProps<V>) {
  const choose = (value: string) => {
    const chosen = options.find((o) => o.value === value);
    if (chosen) onChange(chosen.value);
  };
  const select = (control?: Control) => (
    <select {...control} {...rest} className={clsx(box, "pr-1")} onChange={(e) => choose(e.target.value)}>
      {options.map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </select>
  );
  return label ? (
    <Labelled label={label} className={className}>
      {select}
    </Labelled>
  ) : (
    <div className={className}>{select()}</div>
  );
}

export function Tick(props: { label: string; checked: boolean; onChange: (on: boolean) => void; disabled?: boolean }) {
  return (
    <label className="inline-flex min-h-8 items-center gap-2 text-sm">
      <input
        type="checkbox"
        className="size-4 shrink-0 accent-pine"
        checked={props.checked}
        disabled={props.disabled}
        onChange={(e) => props.onChange(e.target.checked)}
      />
      {props.label}
    </label>
  );
}

/** What a screen says when there is nothing yet, with the first step. */
export function Empty(props: { title: string; children?: ReactNode }) {
  return (
    <div className="flex flex-col items-center gap-3 px-6 py-12 text-center">
      <p className="font-semibold">{props.title}</p>
      <div className="max-w-md text-faint">{props.children}</div>
    </div>
  );
}

/** What stands in place of a screen that is fetched; seen only where that takes a while. */
export function Loading() {
  return (
    <p role="status" className="late px-6 py-16 text-center text-faint">
      Loading …
    </p>
  );
}

export function Trouble({ error }: { error: unknown }) {
  return (
    <p role="alert" className="rounded border border-brick bg-brick-wash px-3 py-2 text-sm text-brick">
      {error instanceof Error ? error.message : String(error)}
    </p>
  );
}

/** Texts apart by commas. Keeps what is being typed as it is typed. */
export function ListBox(props: {
  label: string;
  values: string[];
  onChange: (values: string[]) => void;
  hint?: string;
  className?: string;
}) {
  const [text, setText] = useState(props.values.join(", "));
  const values = split(text);
  useEffect(() => {
    setText((now) => (split(now).join("\n") === props.values.join("\n") ? now : props.values.join(", ")));
  }, [props.values]);
  return (
    <TextBox
      label={props.label}
      hint={props.hint}
      className={props.className}
      value={text}
      data
      onChange={(next) => {
        setText(next);
        if (split(next).join("\n") !== values.join("\n")) props.onChange(split(next));
      }}
    />
  );
}

function split(text: string): string[] {
  return text
    .split(",")
    .map((w) => w.trim())
    .filter(Boolean);
}
