import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask } from "../api/client";
import { kindLabel } from "../formats/formats";
import { Button, Empty, Trouble } from "../ui/basics";
import { moment, plural } from "../ui/words";
import { NewLayout } from "./new-layout";

/** The library: every layout, its version, who uses it, and the last sample that fitted. */
export function LayoutsPage() {
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const layouts = useQuery({ queryKey: ["layouts"], queryFn: () => ask(api.GET("/api/v1/layouts")) });
  return (
    <div className="px-6 py-5">
      <div className="mb-4 flex items-center justify-between">
        <h1>Layouts</h1>
        <Button look="main" onClick={() => setMaking(true)}>
          New layout
        </Button>
      </div>
      {layouts.isError && <Trouble error={layouts.error} />}
      {layouts.data?.length === 0 && (
        <Empty title="No layout yet">
          A layout describes a file once: how it is written, its record types and fields. Start with a sample, a schema,
          a copybook or a header row; each new job brings its layout here too.
        </Empty>
      )}
      {layouts.data && layouts.data.length > 0 && (
        <table className="w-full border-collapse text-sm">
          <thead>
            <tr className="border-b border-line text-xs text-faint">
              {["Layout", "Kind", "Record types", "Version", "Used by", "Last file that fitted", "Changed"].map((h) => (
                <th key={h} className="py-1.5 pr-4">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {layouts.data.map((l) => (
              <tr key={l.name} className="border-b border-line align-baseline hover:bg-card">
                <td className="py-2 pr-4">
                  <Link to={`/layouts/${l.name}`} className="font-semibold text-pine hover:underline">
                    {l.title}
                  </Link>
                  {l.title !== l.name && <div className="data text-xs text-faint">{l.name}</div>}
                </td>
                <td className="py-2 pr-4">{kindLabel(l.kind)}</td>
                <td className="py-2 pr-4">
                  {l.recordTypes.join(", ")}
                  <div className="text-xs text-faint">{plural(l.fields, "field")}</div>
                </td>
                <td className="py-2 pr-4 whitespace-nowrap">
                  {l.version ? `version ${l.version}` : <span className="text-faint">none saved</span>}
                  {l.draftAhead && l.version && (
                    <div className="text-xs text-ochre">changes not saved as a version yet</div>
                  )}
                </td>
                <td className="py-2 pr-4">
                  {l.usedBy.length === 0 && <span className="text-faint">no job</span>}
                  {l.usedBy.map((j) => (
                    <div key={j}>
                      <Link to={`/jobs/${j}?section=2`} className="text-pine hover:underline">
                        {j}
                      </Link>
                    </div>
                  ))}
                </td>
                <td className="data py-2 pr-4 text-xs break-all">
                  {l.fittedName ?? <span className="text-faint">none yet</span>}
                </td>
                <td className="data py-2 text-xs whitespace-nowrap">
                  {moment(l.updatedAt)}
                  <div className="text-faint">{l.updatedBy}</div>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {making && <NewLayout onClose={() => setMaking(false)} onMade={(name) => navigate(`/layouts/${name}`)} />}
    </div>
  );
}
