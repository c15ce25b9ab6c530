import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useNavigate } from "react-router";
import { api, ask } from "../api/client";
import { Dialog } from "../ui/dialog";

/** Finds any job, layout, run, screen or action by typing. */
export function CommandBox(props: { open: boolean; onClose: () => void; toggleTheme: () => void }) {
  const navigate = useNavigate();
  const jobs = useQuery({ queryKey: ["jobs"], queryFn: () => ask(api.GET("/api/v1/jobs")), enabled: props.open });
  const runs = useQuery({
    queryKey: ["runs", "recent"],
    queryFn: () => ask(api.GET("/api/v1/runs")),
    enabled: props.open,
  });
  const layouts = useQuery({
    queryKey: ["layouts"],
    queryFn: () => ask(api.GET("/api/v1/layouts")),
    enabled: props.open,
  });
  const lists = useQuery({
    queryKey: ["code-lists"],
    queryFn: () => ask(api.GET("/api/v1/code-lists")),
    enabled: props.open,
  });
  const go = (to: string) => () => {
    props.onClose();
    navigate(to);
  };
  const item = "flex cursor-pointer justify-between rounded px-2 py-1.5 data-[selected=true]:bg-pine-wash";
  return (
    <Dialog open={props.open} onClose={props.onClose} title="Find">
      <Command label="Find anything">
        <Command.Input
          autoFocus
          placeholder="A job, a layout, a run's number or file, a screen…"
          className="mb-3 h-9 w-full rounded border border-line bg-paper px-3"
        />
        <Command.List className="max-h-80 overflow-auto">
          <Command.Empty className="p-2 text-faint">Nothing of that name.</Command.Empty>
          {["today", "jobs", "layouts", "runs", "code-lists", "connections"].map((s) => (
            <Command.Item key={s} value={`screen ${s}`} onSelect={go(`/${s}`)} className={item}>
              <span className="capitalize">{s.replace("-", " ")}</span> <span className="text-faint">screen</span>
            </Command.Item>
          ))}
          {jobs.data?.map((j) => (
            <Command.Item
              key={j.name}
              value={`job ${j.title} ${j.name}`}
              onSelect={go(`/jobs/${j.name}`)}
              className={item}
            >
              {j.title} <span className="text-faint">job</span>
            </Command.Item>
          ))}
          {lists.data?.map((l) => (
            <Command.Item
              key={`codes ${l.name}`}
              value={`code list ${l.title} ${l.name}`}
              onSelect={go(`/code-lists/${l.name}`)}
              className={item}
            >
              {l.title} <span className="text-faint">code list</span>
            </Command.Item>
          ))}
          {layouts.data?.map((l) => (
            <Command.Item
              key={`layout ${l.name}`}
              value={`layout ${l.title} ${l.name}`}
              onSelect={go(`/layouts/${l.name}`)}
              className={item}
            >
              {l.title} <span className="text-faint">layout</span>
            </Command.Item>
          ))}
          {runs.data?.items.map((r) => (
            <Command.Item
              key={r.id}
              value={`run ${r.id} ${r.fileName}`}
              onSelect={go(`/runs/${r.id}`)}
              className={item}
            >
              <span className="data">{r.fileName}</span> <span className="text-faint">run {r.id}</span>
            </Command.Item>
          ))}
          <Command.Item
            value="theme dark light"
            onSelect={() => {
              props.onClose();
              props.toggleTheme();
            }}
            className={item}
          >
            Change between light and dark <span className="text-faint">action</span>
          </Command.Item>
        </Command.List>
      </Command>
    </Dialog>
  );
}
