import type { Format, Layout, Recognition, RecordType } from "../definitions";
import { viewOf } from "../formats/formats";
import { ListBox, Select, TextBox } from "../ui/basics";

type Props = { layout: Layout; at: number; put: (type: RecordType) => void };

/** What a record type is called, how it is told from the others, and what it belongs to. */
export function RecordTypeForm({ layout, at, put }: Props) {
  const type = layout.recordTypes[at];
  const earlier = layout.recordTypes.slice(0, at).map((t) => t.name);
  const number = (v: string) => (v.trim() === "" ? undefined : Math.max(0, Number.parseInt(v, 10) || 0));
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(136px,1fr))] gap-3">
      <TextBox label="Record type" value={type.name} onChange={(name) => put({ ...type, name })} />
      <RecognitionForm format={layout.format} when={type.when} put={(when) => put({ ...type, when })} />
      <Select
        label="Belongs to"
        value={type.parent ?? ""}
        onChange={(p) => put({ ...type, parent: p || undefined })}
        options={[
          { value: "", label: "no other record" },
          ...earlier.map((n) => ({ value: n, label: `the latest ${n}` })),
        ]}
      />
      <TextBox
        label="At least"
        value={type.min ?? ""}
        placeholder="none"
        onChange={(v) => put({ ...type, min: number(v) })}
        inputMode="numeric"
        hint={type.parent ? `for each ${type.parent}` : "in the file"}
        data
      />
      <TextBox
        label="At most"
        value={type.max ?? ""}
        placeholder="any number"
        onChange={(v) => put({ ...type, max: number(v) })}
        inputMode="numeric"
        data
      />
    </div>
  );
}

function RecognitionForm(props: { format: Format; when?: Recognition; put: (when?: Recognition) => void }) {
  const { format, when, put } = props;
  const { toldBy: place, Recognition: Own } = viewOf(format);
  if (Own || place === "rows") return Own ? <Own when={when} put={put} /> : null;
  if (place === "path" || place === "json") {
    return (
      <TextBox
        label={place === "path" ? "Each element at" : "Each value at"}
        className="col-span-2"
        value={when?.by === place ? when.path : ""}
        onChange={(path) => put({ by: place, path })}
        data
      />
    );
  }
  const tag = (): Recognition => ({ by: "tag", [place]: 1, values: ["A"] });
  const forms: Record<string, () => Recognition | undefined> = {
    always: () => undefined,
    tag,
    "first-line": () => ({ by: "first-line" }),
    "last-line": () => ({ by: "last-line" }),
  };
  return (
    <>
      <Select
        label="Is"
        value={when?.by ?? "always"}
        onChange={(by) => put(forms[by]())}
        options={[
          { value: "always", label: "every record" },
          { value: "tag", label: "told by a tag" },
          { value: "first-line", label: "the first record" },
          { value: "last-line", label: "the last record" },
        ]}
      />
      {when?.by === "tag" && (
        <>
          <ListBox label="Tag" values={when.values} onChange={(values) => put({ ...when, values })} />
          <TextBox
            label={place === "column" ? "in column" : "at position"}
            value={when[place] ?? 1}
            onChange={(v) => put({ ...when, [place]: Math.max(1, Number.parseInt(v, 10) || 1) })}
            inputMode="numeric"
            data
          />
        </>
      )}
    </>
  );
}
