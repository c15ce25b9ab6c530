import { useState } from "react";
import { Trouble } from "../ui/basics";
import { Chips } from "../ui/chips";
import { useOperation, useOperations } from "./use-described";

/** What an application takes: its operations, and the values of the one that is chosen. */
export function OperationsView({ name }: { name: string }) {
  const operations = useOperations(name);
  const [at, setAt] = useState(0);
  if (operations.isError) return <Trouble error={operations.error} />;
  const chosen = operations.data?.[at];
  return (
    <section aria-labelledby="operations">
      <h2 id="operations" className="mb-2">
        What it takes
      </h2>
      {operations.data?.length === 0 && <p className="text-faint">Its document describes nothing that can be sent.</p>}
      <Chips
        label="Operations"
        value={at}
        onChange={setAt}
        chips={(operations.data ?? []).map((o, i) => ({ value: i, label: `${o.method} ${o.path}` }))}
      />
      {chosen && (
        <div className="mt-3 flex max-w-3xl flex-col gap-4">
          <p className="text-faint">{chosen.summary}</p>
          {[undefined, ...chosen.parts].map((part) => (
            <PartTable key={part ?? ""} connection={name} method={chosen.method} path={chosen.path} part={part} />
          ))}
          <p className="text-sm text-faint">
            Answers with <span className="data">{chosen.answers.join(", ") || "nothing that is described"}</span>
          </p>
        </div>
      )}
    </section>
  );
}

function PartTable(props: { connection: string; method: string; path: string; part?: string }) {
  const table = useOperation(props);
  return (
    <table className="w-full border-collapse text-sm">
      <caption className="pb-1 text-left font-semibold">
        {props.part ? (
          <>
            The list <span className="data">{props.part}</span>
          </>
        ) : (
          "The body"
        )}
      </caption>
      <thead>
        <tr className="border-b border-line text-xs text-faint">
          <th className="w-56 py-1 text-left">Value</th>
          <th className="w-40 text-left">Type</th>
          <th className="w-24 text-left">Needed</th>
          <th className="text-left">In its own words</th>
        </tr>
      </thead>
      <tbody>
        {table.data?.columns.map((c) => (
          <tr key={c.name} className="border-b border-line">
            <td className="data py-1">{c.name}</td>
            <td className="data text-faint">{c.label}</td>
            <td>{c.nullable ? "" : "yes"}</td>
            <td className="text-faint">{c.comment}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
