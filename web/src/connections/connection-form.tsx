import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { Button, Select, TextBox, Trouble } from "../ui/basics";
import { AskBeforeLeaving } from "../ui/leaving";
import { same } from "../ui/same";
import { moment } from "../ui/words";
import { DeleteConnection } from "./delete-connection";
import { useKinds } from "./use-kinds";

type View = Schemas["ConnectionView"];
type Form = ReturnType<typeof formOf>;

function formOf(current?: View) {
  return {
    title: current?.title ?? "",
    kind: current?.kind ?? "mariadb",
    host: current?.host || "127.0.0.1",
    port: String(current?.port || 3306),
    database: current?.database ?? "",
    user: current?.user ?? "",
    password: "",
    base: current?.base ?? "",
    authentication: current?.authentication ?? "bearer",
    descriptionPath: current?.descriptionPath ?? "/openapi.json",
    description: "",
    tls: current?.tls ?? "off",
    certificate: current?.certificate ?? "",
  };
}

/** What a kept secret was given for; it is sent nowhere else and in no other way. */
function purposeOf(form: Form) {
  return form.kind === "application"
    ? [form.kind, form.base, form.authentication, form.user].join("\n")
    : [form.kind, form.host, form.port, form.user, form.tls, form.certificate].join("\n");
}

const onThisMachine = (host: string) => /^(localhost|::1|127(\.\d{1,3}){3})$/.test(host);

/** What the server takes; parts that are left empty keep what there is. */
function bodyOf(form: Form): Schemas["ConnectionInput"] {
  const application = form.kind === "application";
  return {
    ...form,
    port: application ? 0 : Number(form.port),
    password: form.password || undefined,
    base: application ? form.base : undefined,
    authentication: application ? form.authentication : undefined,
    descriptionPath: application ? form.descriptionPath || undefined : undefined,
    description: form.description || undefined,
    tls: application ? undefined : form.tls,
    certificate: application ? undefined : form.certificate || undefined,
  };
}

export function ConnectionForm(props: { current?: View; onSaved: (name: string) => void; onDeleted?: () => void }) {
  const { current, onSaved } = props;
  const queries = useQueryClient();
  const [deleting, setDeleting] = useState(false);
  const [name, setName] = useState(current?.name ?? "");
  const [form, setForm] = useState(() => formOf(current));
  const [saved, setSaved] = useState(form);
  const set = (part: keyof Form) => (value: string) => {
    // To another machine the way is encrypted unless somebody says otherwise; to this one it need not be.
    const moves = part === "host" && onThisMachine(form.host) !== onThisMachine(value);
    setForm({ ...form, [part]: value, ...(moves ? { tls: onThisMachine(value) ? "off" : "verified" } : {}) });
  };
  const latest = useRef(form);
  latest.current = form;
  const changed = !same(form, saved);
  // Once there is nothing unsaved any more, so that nobody is asked.
  const [then, setThen] = useState<() => void>();
  useEffect(() => then?.(), [then]);
  const kept = !current?.hasPassword ? "none" : purposeOf(form) === purposeOf(formOf(current)) ? "serves" : "elsewhere";
  const params = { path: { connection: name || "new" } };
  const test = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/connections/{connection}/test", { params, body: bodyOf(form) })),
  });
  const save = useMutation({
    mutationFn: (sent: Form) => ask(api.PUT("/api/v1/connections/{connection}", { params, body: bodyOf(sent) })),
    onSuccess: async (view, sent) => {
      queries.invalidateQueries({ queryKey: ["operations", view.name] });
      await queries.invalidateQueries({ queryKey: ["connections"] });
      const now = formOf(view);
      setSaved(now);
      // What was typed since it was sent stays, and is not saved yet.
      if (!same(latest.current, sent)) return;
      setForm(now);
      setThen(() => () => onSaved(view.name));
    },
  });
  const kinds = useKinds().data ?? [];
  const portOf = (kind: string) => String(kinds.find((k) => k.name === kind)?.port ?? "");
  const driver = kinds.find((k) => k.name === form.kind && !k.own);
  const Parts = form.kind === "application" ? ApplicationParts : DatabaseParts;
  return (
    <form
      aria-label="Connection"
      className="max-w-2xl"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate(form);
      }}
    >
      <h2 className="mb-3">{current ? current.title : "New connection"}</h2>
      <div className="grid grid-cols-2 gap-3">
        <TextBox
          label="Name in definitions"
          value={name}
          onChange={setName}
          disabled={!!current}
          required
          pattern="[a-z0-9][a-z0-9\-]*"
          data
        />
        <TextBox label="Title" value={form.title} onChange={set("title")} />
        <Select
          label="Leads to"
          value={form.kind}
          onChange={(kind) =>
            setForm({
              ...form,
              kind,
              port: form.port === portOf(form.kind) ? portOf(kind) || form.port : form.port,
            })
          }
          options={[
            { value: "mariadb", label: "a MariaDB or MySQL database" },
            { value: "postgresql", label: "a PostgreSQL database" },
            ...kinds.filter((k) => !k.own).map((k) => ({ value: k.name, label: `${k.title}, by its driver` })),
            { value: "application", label: "an application over HTTP" },
          ]}
        />
        <Parts form={form} set={set} kept={kept} driver={driver} />
      </div>
      <div className="mt-4 flex items-center gap-2">
        <Button onClick={() => test.mutate()} disabled={test.isPending}>
          Test
        </Button>
        <Button look="main" type="submit" disabled={save.isPending}>
          Save
        </Button>
        {test.data && (
          <span role="status" className={test.data.ok ? "text-moss" : "text-brick"}>
            {test.data.message}
          </span>
        )}
        {current && (
          <Button look="remove" onClick={() => setDeleting(true)}>
            Delete…
          </Button>
        )}
        {changed && !test.data && <span className="text-sm text-ochre">Not saved yet</span>}
        {current && !changed && !test.data && (
          <span className="text-sm text-faint">
            changed {moment(current.updatedAt)} by {current.updatedBy}
          </span>
        )}
      </div>
      <AskBeforeLeaving unkept={changed} what={current?.title ?? "this connection"} />
      {current && deleting && (
        <DeleteConnection
          name={current.name}
          title={current.title}
          onDeleted={() => {
            setSaved(form);
            setThen(() => () => props.onDeleted?.());
          }}
          onClose={() => setDeleting(false)}
        />
      )}
      {(save.isError || test.isError) && (
        <div className="mt-2">
          <Trouble error={save.error ?? test.error} />
        </div>
      )}
    </form>
  );
}

/** Whether a secret is kept, and whether it serves the address as it is written. */
type Kept = "none" | "serves" | "elsewhere";

type PartsProps = {
  form: Form;
  set: (part: keyof Form) => (value: string) => void;
  kept: Kept;
  /** The driver that it leads to a database by, whose address says how the way there is kept. */
  driver?: Schemas["KindView"];
};

function DatabaseParts({ form, set, kept, driver }: PartsProps) {
  return (
    <>
      <TextBox label="Host" value={form.host} onChange={set("host")} required data />
      {driver?.port !== 0 && (
        <TextBox label="Port" value={form.port} onChange={set("port")} required inputMode="numeric" data />
      )}
      <TextBox label="Database" value={form.database} onChange={set("database")} required data />
      <TextBox label="User" value={form.user} onChange={set("user")} autoComplete="off" data />
      <Secret label="Password" form={form} set={set} kept={kept} />
      {driver ? (
        <p className="self-end pb-1 text-sm text-faint">
          Whether the way there is encrypted is set with the driver, by whoever runs this installation.
        </p>
      ) : (
        <WayThere form={form} set={set} />
      )}
    </>
  );
}

function WayThere({ form, set }: Pick<PartsProps, "form" | "set">) {
  return (
    <>
      <Select
        label="The way there"
        value={form.tls}
        onChange={set("tls")}
        options={[
          { value: "verified", label: "encrypted; the server shows a trusted certificate" },
          { value: "off", label: "in the clear, on this machine or a network you trust" },
        ]}
      />
      {form.tls === "verified" && <PemBox value={form.certificate} onChange={set("certificate")} />}
    </>
  );
}

function PemBox(props: { value: string; onChange: (value: string) => void }) {
  return (
    <label className="col-span-2 flex flex-col gap-1 text-sm">
      Certificate of the server, or of who signed it
      <textarea
        className="data h-20 rounded border border-line bg-card px-2 py-1"
        placeholder="-----BEGIN CERTIFICATE-----"
        spellCheck={false}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      />
      <span className="text-faint">
        As PEM text. Leave it empty where one of the authorities signed it that this machine's Java trusts.
      </span>
    </label>
  );
}

const userLabels: Record<string, string> = {
  basic: "User",
  "api-key": "Header of the key",
  certificate: "Certificate (PKCS 12), as root/file",
};
const secretLabels: Record<string, string> = {
  basic: "Password",
  bearer: "Token",
  "api-key": "Key",
  certificate: "Password of the file",
};

function ApplicationParts({ form, set, kept }: PartsProps) {
  const by = form.authentication;
  return (
    <>
      <TextBox
        label="Address"
        value={form.base}
        onChange={set("base")}
        required
        data
        hint="where its paths begin, such as https://accounts.larkfell.example/api"
      />
      <Select
        label="Callers show"
        value={by}
        onChange={set("authentication")}
        options={[
          { value: "none", label: "nothing" },
          { value: "basic", label: "a user and a password (basic)" },
          { value: "bearer", label: "a token (bearer)" },
          { value: "api-key", label: "a key in a header" },
          { value: "certificate", label: "a client certificate" },
        ]}
      />
      {userLabels[by] && (
        <TextBox label={userLabels[by]} value={form.user} onChange={set("user")} required autoComplete="off" data />
      )}
      {secretLabels[by] && <Secret label={secretLabels[by]} form={form} set={set} kept={kept} />}
      <TextBox
        label="OpenAPI document at"
        value={form.descriptionPath}
        onChange={set("descriptionPath")}
        data
        hint="below the address; read again whenever you save"
      />
      <label className="col-span-2 flex flex-col gap-1 text-sm">
        Or the document itself, as JSON or YAML
        <textarea
          className="data h-20 rounded border border-line bg-card px-2 py-1"
          value={form.description}
          onChange={(e) => set("description")(e.target.value)}
        />
      </label>
    </>
  );
}

const secretHints: Record<Kept, string | undefined> = {
  none: undefined,
  serves: "One is kept, sealed. Leave empty to keep it.",
  elsewhere: "Type it again: the one that is kept was given for another address or way, and is not sent to this one.",
};

function Secret({ label, form, set, kept }: PartsProps & { label: string }) {
  return (
    <TextBox
      label={label}
      type="password"
      value={form.password}
      onChange={set("password")}
      autoComplete="new-password"
      hint={secretHints[kept]}
    />
  );
}
