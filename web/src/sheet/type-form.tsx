import type { DataType } from "../definitions";
import { ListBox, Select, TextBox } from "../ui/basics";

const fresh: Record<DataType["is"], DataType> = {
  text: { is: "text", length: 255 },
  integer: { is: "integer" },
  decimal: { is: "decimal", precision: 12, scale: 2, decimalSign: "." },
  boolean: { is: "boolean", trueTokens: ["true"], falseTokens: ["false"] },
  date: { is: "date", pattern: "yyyy-MM-dd" },
  time: { is: "time", pattern: "HH:mm:ss" },
  timestamp: { is: "timestamp", pattern: "yyyy-MM-dd HH:mm:ss" },
};

/** The type of a field, and how its values are written. */
export function TypeForm({ type, put }: { type: DataType; put: (type: DataType) => void }) {
  const number = (v: string, least: number) => Math.max(least, Number.parseInt(v, 10) || least);
  return (
    <div className="grid grid-cols-4 gap-3">
      <Select
        label="Type"
        value={type.is}
        onChange={(is) => put(fresh[is as DataType["is"]])}
        options={Object.keys(fresh).map((t) => ({ value: t, label: t }))}
      />
      {type.is === "text" && (
        <TextBox label="Longest" value={type.length} onChange={(v) => put({ ...type, length: number(v, 1) })} data />
      )}
      {type.is === "decimal" && (
        <>
          <TextBox
            label="Digits in all"
            value={type.precision}
            onChange={(v) => put({ ...type, precision: number(v, 1) })}
            data
          />
          <TextBox
            label="after the sign"
            value={type.scale}
            onChange={(v) => put({ ...type, scale: number(v, 0) })}
            data
          />
          <Select
            label="Decimal sign"
            value={type.decimalSign ?? "."}
            onChange={(decimalSign) => put({ ...type, decimalSign, groupingSign: undefined })}
            options={[
              { value: ".", label: "point" },
              { value: ",", label: "comma" },
            ]}
          />
          <Select
            label="Grouping sign"
            value={type.groupingSign ?? ""}
            onChange={(g) => put({ ...type, groupingSign: g || undefined })}
            options={[
              { value: "", label: "none" },
              ...[".", ",", "'", " "]
                .filter((g) => g !== (type.decimalSign ?? "."))
                .map((g) => ({ value: g, label: g === " " ? "blank" : g })),
            ]}
          />
        </>
      )}
      {type.is === "boolean" && (
        <>
          <ListBox
            label="True is"
            values={type.trueTokens ?? []}
            onChange={(trueTokens) => put({ ...type, trueTokens })}
          />
          <ListBox
            label="False is"
            values={type.falseTokens ?? []}
            onChange={(falseTokens) => put({ ...type, falseTokens })}
          />
        </>
      )}
      {(type.is === "date" || type.is === "time" || type.is === "timestamp") && (
        <TextBox
          className="col-span-2"
          label="Pattern"
          value={type.pattern}
          onChange={(pattern) => put({ ...type, pattern })}
          hint="yyyy MM dd HH mm ss S"
          data
        />
      )}
    </div>
  );
}
