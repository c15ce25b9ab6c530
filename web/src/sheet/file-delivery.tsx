import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../api/client";
import { type FileTarget, type Layout, type OutFile, type Sheet, targetPlace } from "../definitions";
import { viewOf } from "../formats/formats";
import { Button, Select, TextBox, Tick, Trouble } from "../ui/basics";
import { same } from "../ui/same";
import type { useDelivery } from "./delivery-choice";
import { FilePreview } from "./file-preview";

type Props = {
  to: FileTarget;
  use: ReturnType<typeof useDelivery>;
  sheet: Sheet;
  put: (to: FileTarget) => void;
  /** Changes the files for all deliveries that go to them. */
  putFile: (file: OutFile) => void;
};

/** The same files under a name that tells them apart. */
function apart(file: OutFile): OutFile {
  return { ...file, name: file.name.replace(/(\.[^.{}]*)?$/, "_2$1") };
}

/** The files that records are written to: where, by which layout, and one for what. */
export function FileDelivery({ to, use, sheet, put, putFile }: Props) {
  const [shown, setShown] = useState(false);
  const roots = useQuery({ queryKey: ["roots"], queryFn: () => ask(api.GET("/api/v1/roots")) });
  const { file } = to;
  const written = file.layout && viewOf(file.layout.format);
  const set = (part: Partial<OutFile>) => putFile({ ...file, ...part });
  const types = file.layout?.recordTypes ?? [];
  const fields = use.all.flatMap((d) =>
    d.to?.kind === "file" && d.to.file.name === file.name ? (d.shaping ?? []).map((r) => r.target) : [],
  );
  const shared = use.all.some((d, i) => i !== use.at && d.to && targetPlace(d.to) === targetPlace(to));
  return (
    <>
      {shared && (
        <p className="text-sm text-faint">
          Another delivery writes to the same files: what is changed here holds for both.{" "}
          <Button look="quiet" className="h-7 px-2" onClick={() => put({ kind: "file", file: apart(file) })}>
            Write files of its own
          </Button>
        </p>
      )}
      <div className="grid grid-cols-2 gap-3">
        <Select
          label="Root"
          value={file.root}
          onChange={(root) => set({ root })}
          options={[...new Set([file.root, ...(roots.data ?? [])])].map((r) => ({ value: r, label: r || "choose" }))}
        />
        <TextBox label="Folder below it" value={file.folder ?? ""} onChange={(folder) => set({ folder })} data />
      </div>
      <TextBox
        label="File name"
        value={file.name}
        onChange={(name) => set({ name })}
        hint="{job} {run} {date:yyyyMMdd} {time:HHmm} {file} {number:4}, or {a target field}"
        data
      />
      <LayoutChoice file={file} choose={(layout) => put({ kind: "file", file: { ...file, layout } })} set={set} />
      {types.length > 1 && (
        <div className="grid grid-cols-2 gap-3">
          <Select
            label="A row becomes a record"
            value={to.record ?? types[0].name}
            onChange={(record) => put({ ...to, record: record === types[0].name ? undefined : record })}
            options={types.map((t) => ({ value: t.name, label: t.name }))}
          />
          <Select
            label="It stands"
            value={to.stands ?? "each"}
            onChange={(v) => put({ ...to, stands: v === "each" ? undefined : v })}
            options={[
              { value: "each", label: "for each row" },
              { value: "first", label: "once, at the beginning of a file" },
              { value: "last", label: "once, at the end of a file" },
            ]}
          />
        </div>
      )}
      <div className="grid grid-cols-2 items-end gap-3">
        <Select
          label="One file for"
          value={file.per ?? "run"}
          onChange={(v) =>
            set({
              per: v === "run" ? undefined : v,
              by: v === "group" ? (file.by ?? fields[0]) : undefined,
              records: v === "records" ? (file.records ?? 1000) : undefined,
            })
          }
          options={[
            { value: "run", label: "each run" },
            { value: "document", label: "each document" },
            { value: "group", label: "each value of a target field" },
            { value: "records", label: "so many records" },
          ]}
        />
        {file.per === "group" && (
          <Select
            label="Target field"
            value={file.by ?? ""}
            onChange={(by) => set({ by })}
            options={[...new Set([file.by ?? "", ...fields])].map((f) => ({ value: f, label: f || "choose" }))}
          />
        )}
        {file.per === "records" && (
          <TextBox
            label="Records, documents kept whole"
            value={file.records ?? 1000}
            onChange={(v) => set({ records: Math.max(1, Number.parseInt(v, 10) || 1) })}
            inputMode="numeric"
            data
          />
        )}
      </div>
      {written?.indents && (
        <Tick
          label="Indented, each part on a line of its own"
          checked={file.indented ?? false}
          onChange={(on) => set({ indented: on || undefined })}
        />
      )}
      {(!written || written.lineEnd) && (
        <Select
          label="A line ends with"
          value={file.lineEnd ?? ""}
          onChange={(v) => set({ lineEnd: v || undefined })}
          options={[
            { value: "", label: `${written?.lineEnd ?? "CR LF"}, as usual` },
            { value: "lf", label: "LF" },
            { value: "crlf", label: "CR LF" },
          ]}
        />
      )}
      <Tick
        label="A file of the same name gives way"
        checked={file.replace ?? false}
        onChange={(on) => set({ replace: on || undefined })}
      />
      <p className="text-xs text-faint">
        A file is written under a hidden name and gets its own when it is whole. Counts, totals and running numbers that
        the layout checks are filled in where no rule gives them; a trailer of nothing else needs no delivery.
      </p>
      <Button look="quiet" className="self-start px-2" disabled={!file.layout} onClick={() => setShown(true)}>
        See what it writes …
      </Button>
      {shown && <FilePreview sheet={sheet} delivery={use.at} onClose={() => setShown(false)} />}
    </>
  );
}

type ChoiceProps = { file: OutFile; choose: (layout: Layout) => void; set: (part: Partial<OutFile>) => void };

/** The layout, taken over from the library as it stands there now. */
function LayoutChoice({ file, choose, set }: ChoiceProps) {
  const layouts = useQuery({ queryKey: ["layouts"], queryFn: () => ask(api.GET("/api/v1/layouts")) });
  const name = file.layout?.name ?? "";
  const read = async (of: string) =>
    (await ask(api.GET("/api/v1/layouts/{layout}", { params: { path: { layout: of } } }))).layout;
  const now = useQuery({
    queryKey: ["layout", name, "now"],
    enabled: name !== "",
    queryFn: () => read(name),
    retry: false,
  });
  const older = now.data && !same(now.data, file.layout);
  if (layouts.data?.length === 0) {
    return (
      <p className="text-sm text-faint">
        The library has no layout yet.{" "}
        <Link to="/layouts" className="text-pine underline">
          Make one
        </Link>{" "}
        that says how the file is written.
      </p>
    );
  }
  return (
    <>
      <Select
        label="Layout"
        value={name}
        onChange={async (v) => v && choose(await read(v))}
        options={[
          { value: "", label: "choose" },
          ...(layouts.data ?? []).map((l) => ({ value: l.name, label: `${l.name}: ${l.title}` })),
        ]}
      />
      {layouts.isError && <Trouble error={layouts.error} />}
      {older && (
        <p className="flex items-center gap-3 text-sm text-faint">
          The library has a newer version of it.
          <Button onClick={() => now.data && set({ layout: now.data })}>Take it</Button>
        </p>
      )}
    </>
  );
}
