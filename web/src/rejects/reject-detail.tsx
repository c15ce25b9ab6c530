import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { Button, Trouble } from "../ui/basics";
import { Standing } from "../ui/standing";
import { useSettled } from "../ui/use-settled";
import { count, moment, visible } from "../ui/words";
import { FieldForm } from "./field-form";
import { Marked } from "./marked";
import { placeOf, withoutLine } from "./place-of";
import type { Corrections } from "./use-corrections";
import { nameOf, type RejectKey } from "./use-rejects";

type Props = { at: RejectKey; corrections: Corrections; resubmit: () => void; busy: boolean };

/** The document of a reject: its records as they came, what was said, and an editor that checks again at every key. */
export function RejectDetail({ at, corrections, resubmit, busy }: Props) {
  const params = { path: { run: at.run, leg: at.leg, record: at.record } };
  const document = useQuery({
    queryKey: ["rejects", "document", nameOf(at)],
    queryFn: () => ask(api.GET("/api/v1/rejects/{run}/{leg}/{record}", { params })),
  });
  if (document.isError)
    return (
      <div className="p-5">
        <Trouble error={document.error} />
      </div>
    );
  if (!document.data) return <div />;
  return (
    <Document
      key={nameOf(at)}
      at={at}
      document={document.data}
      corrections={corrections}
      resubmit={resubmit}
      busy={busy}
    />
  );
}

function Document({ at, document, corrections, resubmit, busy }: Props & { document: Schemas["RejectDocument"] }) {
  const standing = corrections.standing[nameOf(at)];
  const texts = standing?.texts ?? {};
  const open = document.state === "open";
  const [byField, setByField] = useState(false);
  const settled = useSettled(JSON.stringify(texts), 150);
  const params = { path: { run: at.run, leg: at.leg, record: at.record } };
  const check = useQuery({
    queryKey: ["rejects", "check", nameOf(at), settled, document.records.map((r) => r.text)],
    enabled: open,
    placeholderData: (before) => before,
    queryFn: () =>
      ask(api.POST("/api/v1/rejects/{run}/{leg}/{record}/check", { params, body: { texts: JSON.parse(settled) } })),
  });
  const shown = (r: Schemas["RejectRecord"]) => texts[r.record] ?? r.text;
  const changed = document.records.filter((r) => !r.inside && shown(r) !== r.raw);
  const refused = check.data?.filter((c) => c.fate === "reject" || c.fate === "halt").length ?? 0;
  const several = document.records.length > 1;
  const alone = document.records.some((r) => r.bad.some((b) => b.hangsOnFile));
  return (
    <div className="flex min-h-0 flex-col">
      <div className="flex items-center gap-2 border-b border-line px-5 py-2">
        <p className="mr-auto min-w-0 text-sm">
          {several ? `A document of ${document.records.length} records` : "One record"} of{" "}
          <Link to={`/runs/${document.run}`} className="text-pine underline">
            run {document.run}
          </Link>
          {open && check.data && (
            <strong className={refused ? "text-brick" : "text-moss"}>
              {" "}
              · {refused ? `${count(refused)} still refused` : alone ? "fits by itself" : "fits now"}
            </strong>
          )}
        </p>
        {open && (standing || changed.length > 0) && (
          <span className="text-sm whitespace-nowrap text-faint">
            <Standing
              keeping={!standing ? "kept" : standing.trouble ? { trouble: standing.trouble } : "keeping"}
              next="not sent yet"
              retry={() => corrections.keep(at)}
            />
          </span>
        )}
        {open && changed.length > 0 && (
          <Button onClick={() => corrections.change(at, Object.fromEntries(changed.map((r) => [r.record, r.raw])))}>
            As it came
          </Button>
        )}
        {open && (
          <Button look={refused || alone ? "plain" : "main"} onClick={resubmit} disabled={busy}>
            Send {several ? "this document" : "this one"} again
          </Button>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-5 py-3">
        {!open && <Decided document={document} />}
        {open && (
          <div role="radiogroup" aria-label="Corrected" className="mb-3 flex gap-1 text-xs">
            {[false, true].map((byFields) => (
              <button
                key={String(byFields)}
                type="button"
                role="radio"
                aria-checked={byField === byFields}
                className={`rounded-sm border px-2 py-0.5 ${byField === byFields ? "border-pine bg-pine-wash font-semibold" : "border-line text-faint"}`}
                onClick={() => setByField(byFields)}
              >
                {byFields ? "By field" : "As text"}
              </button>
            ))}
          </div>
        )}
        {open && alone && (
          <p className="mb-3 rounded border border-ochre bg-ochre-wash px-3 py-2 text-sm text-ochre">
            It was refused for what else stands in its file, which is not asked again here. Sent again as it is, it
            would be delivered.
          </p>
        )}
        <ol className="flex flex-col gap-4">
          {document.records
            .filter((r) => !r.inside)
            .map((r) => (
              <OneRecord
                key={r.record}
                record={r}
                text={shown(r)}
                checked={check.data?.find((c) => c.record === r.record)}
                edit={open ? (text) => corrections.change(at, { [r.record]: text }) : undefined}
                form={
                  open && byField ? (
                    <FieldForm
                      at={at}
                      texts={texts}
                      checked={(check.data ?? []).filter((c) => carrierOf(document.records, c.record) === r.record)}
                      put={(now) => corrections.change(at, now)}
                    />
                  ) : undefined
                }
              />
            ))}
        </ol>
        <History done={document.history} />
      </div>
    </div>
  );
}

function Decided({ document }: { document: Schemas["RejectDocument"] }) {
  return (
    <p className="mb-3 rounded border border-line bg-card px-3 py-2 text-sm">
      {document.state === "resubmitted" ? (
        <>
          Sent again with{" "}
          <Link to={`/runs/${document.resubmittedRun}`} className="text-pine underline">
            run {document.resubmittedRun}
          </Link>
          .
        </>
      ) : (
        <>Set aside for good: {document.reason}</>
      )}
    </p>
  );
}

type RecordProps = {
  record: Schemas["RejectRecord"];
  text: string;
  checked?: Schemas["CheckedReject"];
  edit?: (text: string) => void;
  /** The fields of the record, in place of its text. */
  form?: ReactNode;
};

/** The record in whose text another one stands; itself where it stands in none. */
function carrierOf(records: Schemas["RejectRecord"][], record: number): number {
  let carrier = record;
  for (const r of records) {
    if (!r.inside) carrier = r.record;
    if (r.record === record) return carrier;
  }
  return record;
}

function OneRecord({ record, text, checked, edit, form }: RecordProps) {
  const changed = text !== record.raw;
  const place = placeOf(
    record.line,
    record.bad.map((b) => b.message),
  );
  return (
    <li className="min-w-0">
      <p className="mb-1 flex gap-4 text-xs text-faint">
        <span>{place}</span>
        <span>record {count(record.record)}</span>
        {place.startsWith("line") && <span>byte {count(record.offset)}</span>}
        {checked?.type && checked.type !== "record" && <span>{checked.type}</span>}
      </p>
      <pre
        className="data rounded border border-line bg-sunk px-2 py-1.5 wrap-anywhere whitespace-pre-wrap"
        role="region"
        aria-label={`Record ${record.record} as it came`}
        tabIndex={0}
      >
        <Marked text={record.raw} bad={record.bad} />
      </pre>
      <ul className="mt-1 text-sm text-brick">
        {record.bad.map((b) => (
          <li key={`${b.code} ${b.from} ${b.message}`}>{b.message}</li>
        ))}
      </ul>
      {edit && (
        <div className="mt-2">
          {form ?? (
            <textarea
              aria-label={`Record ${record.record}, corrected`}
              spellCheck={false}
              className="data block field-sizing-content max-h-72 w-full resize-y rounded border border-line bg-card px-2 py-1.5 wrap-anywhere whitespace-pre-wrap focus:border-pine"
              rows={Math.min(12, text.split("\n").length)}
              value={text}
              onChange={(e) => edit(e.target.value)}
            />
          )}
          {checked && <Verdict checked={checked} changed={changed} />}
        </div>
      )}
      {!edit && changed && (
        <pre className="data mt-1 rounded border border-pine bg-card px-2 py-1.5 wrap-anywhere whitespace-pre-wrap">
          {visible(text)}
        </pre>
      )}
    </li>
  );
}

/** What the record would be now: its fields as they are read, and what is still wrong. */
function Verdict({ checked, changed }: { checked: Schemas["CheckedReject"]; changed: boolean }) {
  const refused = checked.fate === "reject" || checked.fate === "halt";
  if (!refused)
    return <p className="mt-1 text-sm text-moss">{changed ? "It fits now." : "Nothing is wrong with it now."}</p>;
  if (!changed) return null;
  return (
    <ul className="mt-1 text-sm text-brick">
      {checked.bad.map((b) => (
        <li key={`${b.code} ${b.from} ${b.message}`}>
          still: <span className="data">{visible(checked.text.slice(b.from, b.to)).slice(0, 60)}</span>{" "}
          {withoutLine(b.message)}
        </li>
      ))}
      {checked.bad.length === 0 && <li>still goes with its document</li>}
    </ul>
  );
}

function History({ done }: { done: Schemas["RejectDone"][] }) {
  if (done.length === 0) return null;
  return (
    <section aria-labelledby="history" className="mt-5">
      <h2 id="history" className="mb-1 text-sm">
        Who did what
      </h2>
      <ul className="text-sm">
        {done.map((d) => (
          <li key={`${d.at} ${d.record} ${d.did}`} className="flex gap-3 border-t border-line py-1">
            <span className="data w-36 shrink-0 text-faint">{moment(d.at)}</span>
            <span className="min-w-0">
              {d.who} {d.did} record {count(d.record)} {d.text}
              {d.corrected && <span className="data block truncate text-xs">{visible(d.corrected)}</span>}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
