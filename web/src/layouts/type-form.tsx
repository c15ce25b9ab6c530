import type { DataType, NumberForm } from "../definitions";
import { ListBox, Select, TextBox, Tick } from "../ui/basics";

const fresh: Record<DataType["is"], DataType> = {
  text: { is: "text", length: 255 },
  integer: { is: "integer" },
  decimal: { is: "decimal", precision: 12, scale: 2, decimalSign: "." },
  boolean: { is: "boolean", trueTokens: ["true"], falseTokens: ["false"] },
  date: { is: "date", pattern: "yyyy-MM-dd" },
  time: { is: "time", pattern: "HH:mm:ss" },
  timestamp: { is: "timestamp", pattern: "yyyy-MM-dd HH:mm:ss" },
};

const types = (["text", "integer", "decimal", "boolean", "date", "time", "timestamp"] as const).map((t) => ({
  value: t,
  label: t,
}));
const decimalSigns = [
  { value: ".", label: "point" },
  { value: ",", label: "comma" },
] as const;
const groupingSigns = [
  { value: "", label: "none" },
  { value: ".", label: "point" },
  { value: ",", label: "comma" },
  { value: "'", label: "apostrophe" },
  { value: " ", label: "blank" },
  { value: "_", label: "underscore" },
] as const;

/** The type of a field, and how its values are written. */
export function TypeForm(props: { type: DataType; fixed?: boolean; put: (type: DataType) => void }) {
  const { type, fixed, put } = props;
  const number = (v: string, least: number) => Math.max(least, Number.parseInt(v, 10) || least);
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(112px,1fr))] gap-3">
      <Select label="Type" value={type.is} onChange={(is) => put(fresh[is])} options={types} />
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
            options={decimalSigns}
          />
          <Select
            label="Grouping sign"
            value={type.groupingSign ?? ""}
            onChange={(g) => put({ ...type, groupingSign: g || undefined })}
            options={groupingSigns.filter((g) => g.value !== (type.decimalSign ?? "."))}
          />
          {!type.groupingSign && (
            <div className="self-end">
              <Tick
                label="May have an exponent, as in 1.5E3"
                checked={type.exponent ?? false}
                onChange={(exponent) => put({ ...type, exponent: exponent || undefined })}
              />
            </div>
          )}
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
          hint="yyyy yy MM MMM dd HH hh mm ss S a X; in [ ] what may be missing"
          data
        />
      )}
      {(type.is === "date" || type.is === "timestamp") && /(^|[^y])yy([^y]|$)/.test(type.pattern) && (
        <TextBox
          label="Last year of 20xx"
          value={type.pivot ?? ""}
          onChange={(v) => put({ ...type, pivot: v === "" ? undefined : Math.min(99, number(v, 0)) })}
          hint="49: 49 is 2049, 50 is 1950"
          data
        />
      )}
      {fixed && (type.is === "integer" || type.is === "decimal") && (
        <NumberFormForm form={type.form ?? {}} decimal={type.is === "decimal"} put={(form) => put({ ...type, form })} />
      )}
    </div>
  );
}

/** How a number of a fixed-length file is written. */
function NumberFormForm(props: { form: NumberForm; decimal: boolean; put: (form?: NumberForm) => void }) {
  const { form, decimal, put } = props;
  const digits = (form.written ?? "digits") === "digits";
  return (
    <>
      <Select
        label="Written as"
        value={form.written ?? "digits"}
        onChange={(w) => put({ ...form, written: w })}
        options={[
          { value: "digits", label: "digits" },
          { value: "packed", label: "packed decimal" },
          { value: "binary", label: "binary" },
        ]}
      />
      <Select
        label="Sign"
        value={digits || form.sign === "unsigned" ? (form.sign ?? "leading") : "leading"}
        onChange={(s) => put({ ...form, sign: s })}
        options={
          digits
            ? [
                { value: "leading", label: "in front" },
                { value: "trailing", label: "behind" },
                { value: "overpunched", label: "in the last digit" },
                { value: "overpunched-leading", label: "in the first digit" },
                { value: "unsigned", label: "none: never below zero" },
              ]
            : [
                { value: "leading", label: "it has one" },
                { value: "unsigned", label: "none: never below zero" },
              ]
        }
      />
      {decimal && digits && (
        <div className="self-end">
          <Tick
            label="No decimal sign"
            checked={form.implied ?? false}
            onChange={(implied) => put({ ...form, implied })}
          />
        </div>
      )}
    </>
  );
}
