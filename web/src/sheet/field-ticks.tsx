/** Some of the fields, each to be taken or left. */
export function FieldTicks(props: {
  label: string;
  fields: string[];
  chosen: string[];
  fixed?: string[];
  put: (fields: string[]) => void;
}) {
  const { label, fields, chosen, fixed = [], put } = props;
  return (
    <fieldset className="min-w-0">
      <legend className="mb-0.5 text-xs text-faint">{label}</legend>
      <div className="flex flex-wrap gap-1.5">
        {fields.map((f) => {
          const isFixed = fixed.includes(f);
          const on = isFixed || chosen.includes(f);
          return (
            <button
              type="button"
              key={f}
              aria-pressed={on}
              disabled={isFixed}
              title={isFixed ? "part of the key" : undefined}
              onClick={() => put(on ? chosen.filter((x) => x !== f) : [...chosen, f])}
              className={`data h-7 rounded border px-2 text-sm disabled:opacity-70 ${on ? "border-pine bg-pine-wash text-pine" : "border-line bg-card hover:border-pine"}`}
            >
              {f}
            </button>
          );
        })}
      </div>
    </fieldset>
  );
}
