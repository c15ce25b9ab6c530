import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { Button, TextBox, Trouble } from "../ui/basics";
import { count, plural, visible } from "../ui/words";

const fates: Record<string, string> = {
  delivered: "text-moss",
  "delivered in part": "text-ochre",
  rejected: "text-brick",
  "set aside": "text-ochre",
  "without rows": "text-faint",
};
const states: Record<string, { words: string; tone: string }> = {
  there: { words: "is there as it was delivered", tone: "text-moss" },
  changed: { words: "has been changed since", tone: "text-ochre" },
  gone: { words: "is not there any more", tone: "text-brick" },
  refused: { words: "was refused there", tone: "text-brick" },
  unknown: { words: "cannot be asked for", tone: "text-faint" },
};

/** One record followed: its bytes in the file, its fields, the rules, its rows, and what stands in the target now. */
export function FollowPage() {
  const id = Number(useParams().id);
  const [search] = useSearchParams();
  const line = search.get("line");
  const record = search.get("record");
  const followed = useQuery({
    queryKey: ["follow", id, line, record],
    enabled: !!line || !!record,
    retry: false,
    queryFn: () =>
      ask(
        api.GET("/api/v1/runs/{run}/follow", {
          params: {
            path: { run: id },
            query: { line: line ? Number(line) : undefined, record: record ? Number(record) : undefined },
          },
        }),
      ),
  });
  const f = followed.data;
  return (
    <div className="mx-auto flex max-w-6xl flex-col gap-5 px-6 py-5">
      <div className="flex items-end gap-3">
        <div className="mr-auto min-w-0">
          <h1>
            Follow{" "}
            {f && (
              <span className={`text-base font-normal ${fates[f.fate] ?? ""}`}>
                {f.records.length > 1 ? `a document of ${f.records.length} records, ` : "a record, "}
                {f.fate}
              </span>
            )}
          </h1>
          <p className="mt-0.5 text-faint">
            <Link to={`/runs/${id}`} className="text-pine underline">
              Run {id}
            </Link>
            {f && (
              <>
                {" "}
                of {f.title}, version {f.version}, on <span className="data">{f.fileName}</span>
              </>
            )}
          </p>
        </div>
        <FollowLine id={id} line={line ?? ""} />
      </div>
      {followed.isError && <Trouble error={followed.error} />}
      {followed.isFetching && !f && <p className="text-faint">Reading the file as far as that …</p>}
      {!line && !record && <p className="text-faint">Say which line of the file is to be followed.</p>}
      {f && <Records followed={f} />}
      {f && <Rows followed={f} />}
    </div>
  );
}

/** Asks for the line of a run's file that is to be followed. */
export function FollowLine({ id, line = "" }: { id: number; line?: string }) {
  const [text, setText] = useState(line);
  const navigate = useNavigate();
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        navigate(`/runs/${id}/follow?line=${Number(text)}`);
      }}
    >
      <TextBox
        label="Line of the file"
        className="w-28"
        value={text}
        onChange={setText}
        inputMode="numeric"
        pattern="[1-9][0-9]*"
        required
        data
      />
      <Button type="submit">Follow</Button>
    </form>
  );
}

function Records({ followed }: { followed: Schemas["Followed"] }) {
  const [all, setAll] = useState(false);
  const shown = all ? followed.records : followed.records.filter((r) => r.record === followed.wanted);
  const others = followed.records.length - shown.length;
  return (
    <section aria-labelledby="bytes" className="flex flex-col gap-4">
      <h2 id="bytes">In the file</h2>
      {shown.map((r) => (
        <div key={r.record} className="min-w-0">
          <p className="mb-1 flex gap-4 text-xs text-faint">
            {r.type && <span className="font-semibold">{r.type}</span>}
            <span>line {count(r.line)}</span>
            <span>record {count(r.record)}</span>
            <span>
              bytes {count(r.offset)} to {count(r.offset + r.length - 1)}
            </span>
            <Link to={`/runs/${followed.run}/file?line=${r.line}`} className="text-pine underline">
              see it in the file
            </Link>
          </p>
          <pre
            className="data overflow-x-auto rounded border border-line bg-sunk px-2 py-1.5"
            tabIndex={0}
            role="region"
            aria-label={`Record ${r.record}`}
          >
            {visible(r.text)}
          </pre>
          {r.aside && <p className="mt-1 text-sm text-ochre">Set aside: {r.aside}</p>}
          <ul className="mt-1 text-sm text-brick">
            {r.findings.map((m) => (
              <li key={m}>{m}</li>
            ))}
          </ul>
          <dl className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-x-6 gap-y-1.5">
            {r.fields.map((x) => (
              <div key={x.name} className="min-w-0 border-t border-line pt-0.5">
                <dt className="text-xs text-faint">{x.name}</dt>
                <dd className="data truncate">
                  {x.value ?? <span className="text-faint">NULL</span>}
                  {x.text?.trim() && x.text !== x.value && (
                    <span className="text-xs text-faint"> from “{visible(x.text)}”</span>
                  )}
                </dd>
              </div>
            ))}
          </dl>
        </div>
      ))}
      {others > 0 && (
        <Button look="quiet" className="self-start px-2" onClick={() => setAll(true)}>
          Show the other {plural(others, "record")} of the document
        </Button>
      )}
    </section>
  );
}

/** Whether it was looked at what stands in the target now. */
function isAsked(state: string): boolean {
  return state !== "unknown" && state !== "refused";
}

function Rows({ followed }: { followed: Schemas["Followed"] }) {
  const own = followed.rows.filter((r) => r.record === followed.wanted);
  const shown = own.length ? own : followed.rows;
  if (shown.length === 0)
    return (
      <p className="text-faint">No row was made of it{followed.fate === "rejected" && ", since it was refused"}.</p>
    );
  return (
    <section aria-labelledby="rows" className="flex flex-col gap-5">
      <h2 id="rows">What was made of it</h2>
      {shown.map((r, i) => {
        const state = states[r.state] ?? states.unknown;
        return (
          <div key={i}>
            <p className="mb-1">
              <span className="data font-semibold">{r.to}</span> {r.connection && `in ${r.connection}`}{" "}
              {r.state !== "unknown" && <span className={state?.tone}>{state?.words}</span>}
            </p>
            <table className="w-full border-collapse text-sm">
              <thead>
                <tr className="border-b border-line text-xs text-faint">
                  <th className="w-44 py-1 text-left">Target field</th>
                  <th className="w-56 text-left">Delivered</th>
                  {isAsked(r.state) && <th className="w-56 text-left">Now</th>}
                  <th className="text-left">By the rule</th>
                </tr>
              </thead>
              <tbody>
                {r.values.map((v) => (
                  <tr key={v.target} className="border-b border-line align-top">
                    <td className="data py-1">{v.target}</td>
                    <td className="data py-1 pr-3 break-all">{v.value ?? <span className="text-faint">NULL</span>}</td>
                    {isAsked(r.state) && (
                      <td className={`data py-1 break-words ${v.differs ? "font-semibold text-ochre" : "text-faint"}`}>
                        {r.state === "gone" ? "–" : v.differs ? (v.now ?? "NULL") : "the same"}
                      </td>
                    )}
                    <td className="py-1 text-faint">{v.rule}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        );
      })}
    </section>
  );
}
