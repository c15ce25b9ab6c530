import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../api/client";
import type { Layout } from "../definitions";
import { Button, Select, Trouble } from "../ui/basics";
import { ChangesTable } from "../ui/changes-table";
import { Dialog } from "../ui/dialog";
import { moment } from "../ui/words";

type Props = { name: string; onTake: (layout: Layout) => void; onClose: () => void };

/** The versions of a layout, how any two of them differ, and a way back to each. */
export function VersionsDialog({ name, onTake, onClose }: Props) {
  const params = { path: { layout: name } };
  const versions = useQuery({
    queryKey: ["layout-versions", name],
    queryFn: () => ask(api.GET("/api/v1/layouts/{layout}/versions", { params })),
  });
  const list = versions.data ?? [];
  const [chosen, setChosen] = useState<{ from?: number; to?: number }>({});
  const to = chosen.to ?? list[0]?.version;
  const from = chosen.from ?? list[1]?.version;
  const changes = useQuery({
    queryKey: ["layout-versions", name, "changes", from, to],
    enabled: from !== undefined && to !== undefined,
    queryFn: () =>
      ask(
        api.GET("/api/v1/layouts/{layout}/changes", { params: { ...params, query: { from: from ?? 0, to: to ?? 0 } } }),
      ),
  });
  const options = list.map((v) => ({ value: String(v.version), label: `version ${v.version}` }));
  return (
    <Dialog open wide onClose={onClose} title={`Versions of ${name}`}>
      {versions.isError && <Trouble error={versions.error} />}
      <table className="mb-4 w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-faint">
            <th className="py-1 pr-4">Version</th>
            <th className="pr-4">Saved</th>
            <th className="pr-4">By</th>
            <th className="pr-4">Note</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {list.map((v) => (
            <tr key={v.version} className="border-b border-line">
              <td className="data py-1 pr-4">{v.version}</td>
              <td className="data pr-4 whitespace-nowrap">{moment(v.savedAt)}</td>
              <td className="pr-4">{v.savedBy}</td>
              <td className="pr-4 text-faint">{v.note ?? ""}</td>
              <td className="text-right">
                <Button
                  look="quiet"
                  className="h-7 px-2"
                  onClick={() => {
                    onTake(v.layout);
                    onClose();
                  }}
                >
                  Take into the draft
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {list.length > 1 && (
        <section aria-label="Difference">
          <div className="mb-2 flex items-end gap-3">
            <Select
              label="From"
              value={String(from)}
              options={options}
              onChange={(v) => setChosen({ ...chosen, from: Number(v) })}
            />
            <Select
              label="to"
              value={String(to)}
              options={options}
              onChange={(v) => setChosen({ ...chosen, to: Number(v) })}
            />
          </div>
          {changes.data?.length === 0 && <p className="text-faint">Nothing differs.</p>}
          {changes.data && changes.data.length > 0 && (
            <ChangesTable changes={changes.data} before={`Version ${from}`} after={`Version ${to}`} />
          )}
        </section>
      )}
    </Dialog>
  );
}
