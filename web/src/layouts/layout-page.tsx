import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { toast } from "sonner";
import { api, ask, download, type Schemas, sendFile } from "../api/client";
import { Bench } from "../bench/bench";
import type { Light } from "../bench/light";
import { SampleMenu } from "../bench/sample-menu";
import type { Layout } from "../definitions";
import { viewOf } from "../formats/formats";
import { Button, TextBox, Trouble } from "../ui/basics";
import { Chips } from "../ui/chips";
import { ConflictDialog } from "../ui/conflict-dialog";
import { Menu } from "../ui/menu";
import { Standing } from "../ui/standing";
import { useDraft, useUndoKeys } from "../ui/use-draft";
import { useSearchIndex } from "../ui/use-search-value";
import { plural } from "../ui/words";
import { DeleteLayout } from "./delete-layout";
import { ElementsView } from "./elements-view";
import { LayoutChecks } from "./layout-checks";
import { LayoutForm } from "./layout-form";
import { SaveVersion } from "./save-version";
import { VersionsDialog } from "./versions-dialog";

export function LayoutPage() {
  const { name = "" } = useParams();
  return <LayoutEditor key={name} name={name} />;
}

const noSample =
  "Drop a file here that is like the ones to come, or choose one under Sample: from your machine, from a folder on the server, of a past run, or pasted. Every change is read against it at once.";

type DialogName = "save" | "versions" | "delete";

function LayoutEditor({ name }: { name: string }) {
  const queries = useQueryClient();
  const params = { path: { layout: name } };
  const editor = useDraft<Schemas["LayoutView"], Layout>({
    key: ["layout", name],
    load: () => ask(api.GET("/api/v1/layouts/{layout}", { params })),
    draftOf: (view) => view.layout,
    save: (draft, revision) =>
      ask(
        api.PUT("/api/v1/layouts/{layout}/draft", {
          params,
          body: { layout: draft, revision } as Schemas["LayoutDraft"],
        }),
      ),
    difference: (draft, revision) =>
      ask(
        api.POST("/api/v1/layouts/{layout}/difference", {
          params,
          body: { layout: draft, revision } as Schemas["LayoutDraft"],
        }),
      ),
    saved: () => queries.invalidateQueries({ queryKey: ["layouts"] }),
  });
  const [light, setLight] = useState<Light>({});
  const [seen, setSeen] = useState<Schemas["BenchView"]>();
  const [dialog, setDialog] = useState<DialogName>();
  const [part, setPart] = useSearchIndex("part");
  useUndoKeys(editor);
  const sampled = () => {
    queries.invalidateQueries({ queryKey: ["bench", "layout", name] });
    queries.invalidateQueries({ queryKey: ["raw", "layout", name] });
    queries.invalidateQueries({ queryKey: ["layout", name] });
  };
  const giveSample = useMutation({
    mutationFn: (file: File) => sendFile("PUT", `/api/v1/layouts/${name}/sample`, file),
    onSuccess: sampled,
    onError: (e) => toast.error(e.message),
  });

  if (editor.view.isError)
    return (
      <div className="p-6">
        <Trouble error={editor.view.error} />
      </div>
    );
  const view = editor.view.data;
  const layout = editor.draft;
  if (!layout || !view) return null;
  const checks =
    layout.recordTypes.reduce((n, t) => n + t.fields.reduce((m, f) => m + (f.checks?.length ?? 0), 0), 0) +
    (layout.fileChecks?.length ?? 0);
  const fields = layout.recordTypes.reduce((n, t) => n + t.fields.length, 0);
  // Its elements and an XML schema are of XML alone.
  const xml = layout.format.kind === "xml";
  const schema = viewOf(layout.format).schema;
  const exported = (what: string, end?: string) => async () => {
    await editor.flush();
    await download(`/api/v1/layouts/${name}/${what}`, end && `${name}${end}`).catch((e) => toast.error(e.message));
  };
  return (
    <div className="flex h-full flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-line px-5 py-2.5">
        <div className="mr-auto min-w-0">
          <h1 className="truncate">{layout.title ?? name}</h1>
          <p className="text-xs text-faint">
            {view.version ? `version ${view.version}` : "no version yet"}
            {" · "}
            {view.usedBy.length === 0 ? "used by no job" : `used by ${view.usedBy.join(", ")}`}
            {" · "}
            <Standing
              keeping={editor.keeping}
              next={view.draftAhead ? "not saved as a version yet" : undefined}
              retry={editor.flush}
            />
          </p>
        </div>
        <SampleMenu owner="layout" name={name} giveSample={(file) => giveSample.mutate(file)} taken={sampled} />
        <Menu
          label="More"
          items={[
            { word: "Download as JSON", onSelect: exported("definition") },
            {
              word: "Download a made-up sample file",
              onSelect: exported("made-up", `.sample${viewOf(layout.format).ending}`),
            },
            ...(schema ? [{ word: schema.word, onSelect: exported(schema.path, schema.ending) }] : []),
            { word: "Delete this layout…", onSelect: () => setDialog("delete"), brick: true },
          ]}
        />
        <Button onClick={() => setDialog("versions")} disabled={!view.version}>
          Versions
        </Button>
        <Button
          look="main"
          disabled={!view.draftAhead && editor.state === "saved"}
          onClick={async () => {
            await editor.flush();
            setDialog("save");
          }}
        >
          Save a version
        </Button>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(320px,34%)_minmax(0,1fr)]">
        <div className="flex min-h-0 flex-col gap-3 overflow-auto border-r border-line px-5 py-3">
          <Chips
            label="Part of the layout"
            value={part}
            onChange={setPart}
            chips={[
              { value: 0, label: "Fields", note: String(fields) },
              { value: 1, label: "Checks", note: String(checks) },
            ]}
          />
          {part === 0 ? (
            <>
              <TextBox
                label="Title"
                value={layout.title ?? ""}
                onChange={(title) => editor.change({ ...layout, title })}
                hint={`${plural(layout.recordTypes.length, "record type")}, known as ${name}`}
              />
              <LayoutForm
                layout={layout}
                put={editor.change}
                light={light}
                setLight={setLight}
                counts={seen?.preview.types}
              />
            </>
          ) : (
            <LayoutChecks layout={layout} put={editor.change} />
          )}
        </div>
        <Bench
          of={{ owner: "layout", name }}
          work={{ layout }}
          compute={(work, from, count) =>
            ask(
              api.POST("/api/v1/layouts/{layout}/bench", {
                params: { ...params, query: { from, count } },
                body: work.layout,
              }),
            )
          }
          change={editor.change}
          sampleName={view.sampleName}
          light={light}
          setLight={setLight}
          giveSample={(file) => giveSample.mutate(file)}
          empty={noSample}
          onSeen={setSeen}
          extra={
            xml && view.sampleName
              ? {
                  value: "elements",
                  label: "Elements",
                  content: (
                    <ElementsView
                      name={name}
                      sampleName={view.sampleName}
                      layout={layout}
                      change={editor.change}
                      setLight={setLight}
                    />
                  ),
                }
              : undefined
          }
        />
      </div>
      {editor.conflict && <ConflictDialog conflict={editor.conflict} what={name} />}
      {dialog === "save" && (
        <SaveVersion name={name} layout={layout} onClose={() => setDialog(undefined)} onSaved={editor.take} />
      )}
      {dialog === "versions" && (
        <VersionsDialog name={name} onTake={editor.change} onClose={() => setDialog(undefined)} />
      )}
      {dialog === "delete" && (
        <DeleteLayout
          name={name}
          title={layout.title ?? name}
          usedBy={view.usedBy}
          onClose={() => setDialog(undefined)}
        />
      )}
    </div>
  );
}
