import { useOperations } from "../connections/use-described";
import type { ApplicationTarget } from "../definitions";
import { Select, TextBox, Trouble } from "../ui/basics";
import { FieldTicks } from "./field-ticks";

const methods = ["POST", "PUT", "PATCH"] as const;

type Props = { to: ApplicationTarget; put: (to: ApplicationTarget) => void };

/** The operation of an application that documents are sent to, and where rows stand in its body. */
export function ApplicationDelivery({ to, put }: Props) {
  const operations = useOperations(to.connection);
  const chosen = operations.data?.find((o) => o.method === (to.method ?? "POST") && o.path === to.path);
  const name = (method: string | undefined, path: string) => `${method ?? "POST"} ${path}`;
  const options = (operations.data ?? []).map((o) => ({
    value: name(o.method, o.path),
    label: `${name(o.method, o.path)}${o.summary ? `: ${o.summary}` : ""}`,
  }));
  if (to.path && operations.data && !chosen)
    options.unshift({ value: name(to.method, to.path), label: `${name(to.method, to.path)} (not described)` });
  return (
    <>
      <Select
        label="Operation"
        value={to.path ? name(to.method, to.path) : ""}
        onChange={(v) => {
          const [wanted, path = ""] = v.split(" ");
          put({ kind: "application", connection: to.connection, method: methods.find((m) => m === wanted), path });
        }}
        options={[{ value: "", label: "choose" }, ...options]}
      />
      {operations.isError && <Trouble error={operations.error} />}
      {chosen && chosen.parts.length > 0 && (
        <Select
          label="A row is"
          value={to.part ?? ""}
          onChange={(part) => put({ ...to, part: part || undefined, keep: part ? undefined : to.keep })}
          options={[
            { value: "", label: "the body of the request itself" },
            ...chosen.parts.map((p) => ({ value: p, label: `an element of its list ${p}` })),
          ]}
        />
      )}
      {chosen?.many && (
        <TextBox
          label="Documents in a request, at most"
          value={to.batch ?? 1}
          onChange={(v) => put({ ...to, batch: Math.min(1000, Math.max(1, Number.parseInt(v, 10) || 1)) })}
          inputMode="numeric"
          data
        />
      )}
      {chosen && !to.part && chosen.answers.length > 0 && (
        <FieldTicks
          label="Kept of its answer, with the document"
          fields={chosen.answers}
          chosen={to.keep ?? []}
          put={(keep) => put({ ...to, keep: keep.length ? keep : undefined })}
        />
      )}
      <p className="text-xs text-faint">
        Each document is one request{chosen?.many && ", or several are, where that is asked for"}. It is sent again
        while the application is away, busy or out of order, always with the same idempotency key; what the application
        refuses becomes a reject, in its own words.
      </p>
    </>
  );
}
