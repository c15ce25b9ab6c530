import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { useConnections } from "../connections/use-described";
import type { FromQuery } from "../definitions";
import { Button, Labelled, Select, TextBox, Tick, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import type { SectionProps } from "./section-props";

type Props = Pick<SectionProps, "sheet" | "change"> & { query: FromQuery; put: (query: FromQuery) => void };

/** What a database is asked, and what is taken of it: the sample, and a layout of its columns. */
export function QueryForm({ sheet, change, query, put }: Props) {
  const { name = "" } = useParams();
  const queries = useQueryClient();
  const [sure, setSure] = useState(false);
  const databases = (useConnections().data ?? []).filter((c) => c.kind !== "application").map((c) => c.name);
  const take = useMutation({
    mutationFn: (keepLayout: boolean) =>
      ask(
        api.POST("/api/v1/jobs/{job}/query", {
          params: { path: { job: name } },
          body: { ...sheet, keepLayout },
        }),
      ),
    onSuccess: (taken, keepLayout) => {
      if (!keepLayout) change({ ...sheet, layout: taken.layout });
      queries.invalidateQueries({ queryKey: ["bench", "job", name] });
      queries.invalidateQueries({ queryKey: ["raw", "job", name] });
      queries.invalidateQueries({ queryKey: ["job", name] });
      toast(keepLayout ? "The first rows are the sample now." : "Layout and sample are those of the query now.");
    },
  });
  const ready = query.connection !== "" && query.statement.trim() !== "";
  return (
    <>
      <Select
        label="Database"
        value={query.connection}
        onChange={(connection) => put({ ...query, connection })}
        options={[...new Set(["", query.connection, ...databases])].map((c) => ({ value: c, label: c || "choose" }))}
      />
      <Labelled label="Query" hint=":today :run, site values and what is asked at start">
        {(control) => (
          <textarea
            {...control}
            rows={6}
            spellCheck={false}
            placeholder="SELECT …"
            className="data w-full rounded border border-line bg-card px-2 py-1.5 text-sm"
            value={query.statement}
            onChange={(e) => put({ ...query, statement: e.target.value, writtenBy: undefined })}
          />
        )}
      </Labelled>
      {query.writtenBy && <p className="text-xs text-faint">Written by {query.writtenBy}.</p>}
      <div className="grid grid-cols-2 items-end gap-3">
        <TextBox
          label="Rows in order of"
          value={query.key ?? ""}
          placeholder="the query's own order"
          onChange={(v) => put({ ...query, key: v || undefined, onlyNew: v ? query.onlyNew : undefined })}
          data
        />
        <Tick
          label="Only rows behind the last one taken"
          checked={query.onlyNew ?? false}
          disabled={!query.key}
          onChange={(on) => put({ ...query, onlyNew: on || undefined })}
        />
      </div>
      {query.onlyNew && (
        <div className="grid grid-cols-[10rem_1fr] items-start gap-3">
          <TextBox
            label="Wait, in seconds"
            value={query.lagSeconds ? String(query.lagSeconds) : ""}
            placeholder="0"
            onChange={(v) => put({ ...query, lagSeconds: Number.parseInt(v, 10) || undefined })}
            data
          />
          <p className="pt-5 text-xs text-faint">
            A row that is committed after one with a higher key would be missed. Choose a column that grows in the order
            of commits, or wait as long as the longest transaction may take: rows are then taken that much later.
          </p>
        </div>
      )}
      <div className="flex flex-wrap gap-2">
        <Button disabled={!ready || take.isPending} onClick={() => take.mutate(true)}>
          Take its first rows as the sample
        </Button>
        <Button disabled={!ready || take.isPending} onClick={() => setSure(true)}>
          Make the layout from its columns
        </Button>
      </div>
      {take.isError && <Trouble error={take.error} />}
      <p className="text-xs text-faint">
        The rows are copied, as one look at the database, to a file of the layout; a run goes on with that file wherever
        it breaks off.
      </p>
      {sure && (
        <Dialog
          open
          title="Make the layout anew?"
          onClose={() => setSure(false)}
          actions={
            <>
              <Button onClick={() => setSure(false)}>Cancel</Button>
              <Button
                look="main"
                onClick={() => {
                  setSure(false);
                  take.mutate(false);
                }}
              >
                Make it anew
              </Button>
            </>
          }
        >
          <p>
            The layout of this job becomes that of the columns of the query, and its first rows become the sample. Rules
            keep the names of the fields they take.
          </p>
        </Dialog>
      )}
    </>
  );
}
