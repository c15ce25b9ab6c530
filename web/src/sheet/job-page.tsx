import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { toast } from "sonner";
import { api, ask, type Schemas, sendFile } from "../api/client";
import { Bench } from "../bench/bench";
import type { Light } from "../bench/light";
import { SampleMenu } from "../bench/sample-menu";
import { Button, Trouble } from "../ui/basics";
import { ConflictDialog } from "../ui/conflict-dialog";
import { typing } from "../ui/keys";
import { Menu } from "../ui/menu";
import { Standing } from "../ui/standing";
import { useUndoKeys } from "../ui/use-draft";
import { useSearchValue } from "../ui/use-search-value";
import { DeleteJob } from "./delete-job";
import { JobWords } from "./job-words";
import { LiveDialog } from "./live-dialog";
import { ProofsDialog, useProofs } from "./proofs-dialog";
import { RehearsalDialog } from "./rehearsal-dialog";
import { Sections } from "./sections";
import { StartDialog } from "./start-dialog";
import { useSheet } from "./use-sheet";

export function JobPage() {
  const { name = "" } = useParams();
  return <JobEditor key={name} name={name} />;
}

const noSample =
  "Drop a file here that is like the ones to come, or choose one under Sample. It stays beside the sheet and shows at once what each change does.";

function JobEditor({ name }: { name: string }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const editor = useSheet(name);
  const [section, setOpen] = useSearchValue("section");
  const [light, setLight] = useState<Light>({});
  const [seen, setSeen] = useState<Schemas["BenchView"]>();
  const [dialog, setDialog] = useState<"live" | "rehearsal" | "start" | "proofs" | "words" | "delete">();
  const open = section ?? "4";
  const check = useQuery({
    queryKey: ["job-part", name, "check"],
    queryFn: () => ask(api.GET("/api/v1/jobs/{job}/check", { params: { path: { job: name } } })),
    retry: false,
  });
  const schedule = useMutation({
    mutationFn: (on: boolean) =>
      ask(api.PUT("/api/v1/jobs/{job}/schedule", { params: { path: { job: name }, query: { on } } })),
    onSuccess: (job) => {
      queries.setQueryData(["job", name], job);
      toast(job.scheduled ? "The schedule is on." : "The schedule is off.");
    },
    onError: (e) => toast.error(e.message),
  });
  const sampled = () => {
    queries.invalidateQueries({ queryKey: ["bench", "job", name] });
    queries.invalidateQueries({ queryKey: ["raw", "job", name] });
    queries.invalidateQueries({ queryKey: ["job", name] });
  };
  const giveSample = useMutation({
    mutationFn: (file: File) => sendFile<Schemas["JobView"]>("PUT", `/api/v1/jobs/${name}/sample`, file),
    onSuccess: (job) => {
      queries.setQueryData(["job", name], job);
      sampled();
    },
    onError: (e) => toast.error(e.message),
  });

  useUndoKeys(editor);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const ctrl = e.ctrlKey || e.metaKey;
      if (ctrl && e.key === "Enter") {
        // As the button: only where there is something to put live, and what is on the screen.
        if (!dialog && editor.view.data?.draftAhead) editor.flush().then(() => setDialog("live"));
      } else if (!typing(e) && !ctrl && /^[1-5]$/.test(e.key) && !dialog) setOpen(e.key);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });

  if (editor.view.isError)
    return (
      <div className="p-6">
        <Trouble error={editor.view.error} />
      </div>
    );
  if (!editor.draft || !editor.view.data) return null;
  const job = editor.view.data;
  const sheet = editor.draft;
  const shortcomings = check.data ?? [];
  const showDialog = async (which: "live" | "rehearsal" | "start" | "proofs") => {
    await editor.flush();
    setDialog(which);
  };
  return (
    <div className="flex h-full flex-col">
      <div className="flex flex-wrap items-center justify-end gap-x-3 gap-y-2 border-b border-line px-5 py-2.5">
        <div className="mr-auto min-w-0">
          <h1 className="truncate">{editor.draft.job.title ?? name}</h1>
          <p className="text-xs text-faint">
            {job.liveVersion && `version ${job.liveVersion} is live · `}
            <Standing
              keeping={editor.keeping}
              next={job.draftAhead ? "not live yet" : undefined}
              retry={editor.flush}
            />
          </p>
        </div>
        <SampleMenu owner="job" name={name} giveSample={(file) => giveSample.mutate(file)} taken={sampled} />
        <Menu
          label="More"
          items={[
            { word: "Its runs", onSelect: () => navigate(`/runs?job=${name}`) },
            { word: "Title and description…", onSelect: () => setDialog("words") },
            { word: "Delete this job…", onSelect: () => setDialog("delete"), brick: true },
          ]}
        />
        <Button onClick={() => schedule.mutate(!job.scheduled)} disabled={!job.liveVersion || schedule.isPending}>
          {job.scheduled ? "Schedule off" : "Schedule on"}
        </Button>
        <Button onClick={() => showDialog("start")} disabled={!job.liveVersion}>
          {sheet.job.pickUp?.from.kind === "query" ? "Run" : "Run a file"}
        </Button>
        <Button onClick={() => showDialog("rehearsal")} disabled={!job.sampleName}>
          Rehearse
        </Button>
        <ProofsButton name={name} revision={job.revision} onClick={() => showDialog("proofs")} />
        <Button look="main" onClick={() => showDialog("live")} disabled={!job.draftAhead}>
          Put live
        </Button>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(340px,40%)_minmax(0,1fr)]">
        <div className="min-h-0 overflow-auto border-r border-line">
          <Sections
            sheet={editor.draft}
            change={editor.change}
            open={open}
            setOpen={setOpen}
            shortcomings={shortcomings}
            light={light}
            setLight={setLight}
            seen={seen}
          />
        </div>
        <Bench
          of={{ owner: "job", name }}
          work={sheet}
          compute={(work, from, count) =>
            ask(
              api.POST("/api/v1/jobs/{job}/bench", {
                params: { path: { job: name }, query: { from, count } },
                body: work as Schemas["Sheet"],
              }),
            )
          }
          change={(layout) => editor.change({ ...sheet, layout })}
          sampleName={job.sampleName}
          light={light}
          setLight={setLight}
          giveSample={(file) => giveSample.mutate(file)}
          empty={noSample}
          onSeen={setSeen}
        />
      </div>
      {editor.conflict && <ConflictDialog conflict={editor.conflict} what={editor.draft.job.title ?? name} />}
      {dialog === "live" && <LiveDialog name={name} live={job.liveVersion} onClose={() => setDialog(undefined)} />}
      {dialog === "rehearsal" && <RehearsalDialog name={name} onClose={() => setDialog(undefined)} />}
      {dialog === "proofs" && (
        <ProofsDialog
          name={name}
          revision={job.revision}
          hasSample={!!job.sampleName}
          onClose={() => setDialog(undefined)}
        />
      )}
      {dialog === "words" && (
        <JobWords sheet={editor.draft} change={editor.change} onClose={() => setDialog(undefined)} />
      )}
      {dialog === "delete" && (
        <DeleteJob name={name} title={editor.draft.job.title ?? name} onClose={() => setDialog(undefined)} />
      )}
      {dialog === "start" && (
        <StartDialog
          name={name}
          asked={editor.draft.job.asked ?? []}
          query={sheet.job.pickUp?.from.kind === "query"}
          onClose={() => setDialog(undefined)}
        />
      )}
    </div>
  );
}

/** The way to the proofs, with how they stand. */
function ProofsButton({ name, revision, onClick }: { name: string; revision: number; onClick: () => void }) {
  const proofs = useProofs(name, revision);
  const red = (proofs.data ?? []).filter((p) => !p.green).length;
  return (
    <Button onClick={onClick}>
      Proofs
      {proofs.data && proofs.data.length > 0 && (
        <span className={`ml-1.5 ${red ? "font-semibold text-brick" : "text-moss"}`}>
          {red ? `${red} red` : `${proofs.data.length} green`}
        </span>
      )}
    </Button>
  );
}
