import { useQueryClient } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import type { Job, Layout, Sheet } from "../definitions";
import { useDraft } from "../ui/use-draft";

/** A job's draft in the editor. */
export function useSheet(name: string) {
  const queries = useQueryClient();
  const params = { path: { job: name } };
  return useDraft<Schemas["JobView"], Sheet>({
    key: ["job", name],
    load: () => ask(api.GET("/api/v1/jobs/{job}", { params })),
    draftOf: (view) => ({ job: view.job as Job, layout: view.layout as Layout }),
    save: (draft, revision) =>
      ask(api.PUT("/api/v1/jobs/{job}/draft", { params, body: { ...draft, revision } as Schemas["Draft"] })),
    difference: (draft, revision) =>
      ask(api.POST("/api/v1/jobs/{job}/difference", { params, body: { ...draft, revision } as Schemas["Draft"] })),
    saved: () => queries.invalidateQueries({ queryKey: ["job-part", name] }),
  });
}
