import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../api/client";
import type { Sheet } from "../definitions";
import { SaveVersion } from "../layouts/save-version";
import { Button } from "../ui/basics";
import { plural } from "../ui/words";

type Props = { sheet: Sheet; change: (sheet: Sheet) => void };

/** How the layout of a job stands to the one of the library: the same, changed here, or an earlier version. */
export function LayoutStanding({ sheet, change }: Props) {
  const [saving, setSaving] = useState(false);
  const name = sheet.job.layout;
  const impact = useQuery({
    queryKey: ["layout-impact", name, JSON.stringify(sheet.layout)],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      ask(
        api.POST("/api/v1/layouts/{layout}/impact", {
          params: { path: { layout: name } },
          body: sheet.layout,
        }),
      ),
  });
  const d = impact.data;
  if (!d) return null;
  const take = async () => {
    const versions = await ask(api.GET("/api/v1/layouts/{layout}/versions", { params: { path: { layout: name } } }));
    const layout = versions.find((v) => v.version === d.latest)?.layout;
    if (layout) change({ ...sheet, layout: layout });
  };
  const library = (
    <Link to={`/layouts/${name}`} className="text-pine underline">
      {name}
    </Link>
  );
  return (
    <p className="flex flex-wrap items-center gap-x-2 border-b border-line pb-2 text-sm text-faint">
      {d.sameAs !== null && d.sameAs === d.latest && (
        <span>
          {library}, version {d.sameAs} of the library.
        </span>
      )}
      {d.sameAs !== null && d.sameAs !== d.latest && (
        <>
          <span>
            {library}, version {d.sameAs}; <strong className="text-ochre">the library has version {d.latest}.</strong>
          </span>
          <Button look="quiet" className="h-7 px-2" onClick={take}>
            Take version {d.latest}
          </Button>
        </>
      )}
      {d.sameAs === null && (
        <>
          <span>
            {library}: <strong className="text-ochre">changed here</strong>
            {d.latest ? ` from version ${d.latest} (${plural(d.changes.length, "part")})` : ""}.
          </span>
          <Button look="quiet" className="h-7 px-2" onClick={() => setSaving(true)}>
            Save to the library…
          </Button>
          {d.latest && (
            <Button look="quiet" className="h-7 px-2" onClick={take}>
              Take version {d.latest} again
            </Button>
          )}
        </>
      )}
      {saving && (
        <SaveVersion
          name={name}
          layout={sheet.layout}
          own={sheet.job.name}
          onClose={() => setSaving(false)}
          onSaved={() => impact.refetch()}
        />
      )}
    </p>
  );
}
