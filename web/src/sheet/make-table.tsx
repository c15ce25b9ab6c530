import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import type { Delivery, Sheet } from "../definitions";
import { Button, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { useSettled } from "../ui/use-settled";
import { slug } from "../ui/words";

type Props = {
  sheet: Sheet;
  /** The index of the delivery, and the delivery itself. */
  at: number;
  delivery: Delivery;
  connection: string;
  put: (delivery: Delivery) => void;
  onClose: () => void;
};

/** Makes a table of the delivery's rules, or of the fields of its records where it has none; the statement is shown first. */
export function MakeTable({ sheet, at, delivery, connection, put, onClose }: Props) {
  const { name = "" } = useParams();
  const queries = useQueryClient();
  const usual = slug(`${delivery.summary ? "groups of " : ""}${delivery.of ?? sheet.job.title}`).replaceAll("-", "_");
  const [table, setTable] = useState(usual);
  const settled = useSettled(table, 250);
  const to = { mode: "add" as const, ...delivery.to, connection, table: settled };
  const deliveries = [...(sheet.job.deliveries ?? [])];
  deliveries[at] = { ...delivery, to };
  const body = (make: boolean) => ({
    job: { ...sheet.job, deliveries },
    layout: sheet.layout,
    delivery: at,
    make,
  });
  const shown = useQuery({
    queryKey: ["new-table", name, JSON.stringify(body(false))],
    enabled: settled.trim() !== "",
    retry: false,
    placeholderData: (before) => before,
    queryFn: () => ask(api.POST("/api/v1/jobs/{job}/table", { params: { path: { job: name } }, body: body(false) })),
  });
  const make = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/jobs/{job}/table", { params: { path: { job: name } }, body: body(true) })),
    onSuccess: (made) => {
      queries.invalidateQueries({ queryKey: ["tables", connection] });
      queries.invalidateQueries({ queryKey: ["table", connection] });
      put({ ...delivery, to, shaping: made.rules });
      toast(`The table ${settled} is made.`);
      onClose();
    },
  });
  return (
    <Dialog open onClose={onClose} title="Make a table">
      <div className="flex flex-col gap-3">
        <TextBox label={`Name of the table in ${connection}`} value={table} onChange={setTable} data />
        <p className="text-sm text-faint">
          {delivery.shaping?.length
            ? "A column for each rule, of the type of its values."
            : "A column and a rule for each field, of its type. A key chosen under Delivery becomes the primary key."}
        </p>
        {shown.data && (
          <div
            role="region"
            aria-label="The statement"
            tabIndex={0}
            className="max-h-80 overflow-auto rounded border border-line bg-paper p-3 text-sm"
          >
            <pre className="data">{shown.data.statement}</pre>
          </div>
        )}
        {shown.isError && <Trouble error={shown.error} />}
        {make.isError && <Trouble error={make.error} />}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Not now</Button>
          <Button
            look="main"
            disabled={!shown.data || make.isPending || table !== settled}
            onClick={() => make.mutate()}
          >
            Make it
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
