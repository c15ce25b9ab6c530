import type { Schemas } from "../api/client";

/** What differs between two definitions, part by part. */
export function ChangesTable(props: { changes: Schemas["Change"][]; before: string; after: string }) {
  return (
    <table className="w-full border-collapse text-sm">
      <thead>
        <tr className="border-b border-line text-xs text-faint">
          <th className="pr-4">Part</th>
          <th className="pr-4">{props.before}</th>
          <th>{props.after}</th>
        </tr>
      </thead>
      <tbody>
        {props.changes.map((c) => (
          <tr key={c.part} className="border-b border-line align-top">
            <td className="py-1 pr-4">{c.part}</td>
            <td className="data max-w-64 py-1 pr-4 text-brick">
              <Side text={c.before} />
            </td>
            <td className="data max-w-64 py-1 text-moss">
              <Side text={c.after} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** One side of a difference; a long one, such as a schema, scrolls in its own room. */
function Side({ text }: { text: string | null }) {
  return <div className="max-h-24 overflow-auto break-words">{text ?? "–"}</div>;
}
