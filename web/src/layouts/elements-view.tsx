import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import type { Light } from "../bench/light";
import type { Field, Layout, RecordType, Xml } from "../definitions";
import { Button, Trouble } from "../ui/basics";
import { count } from "../ui/words";

type Branch = Schemas["Branch"];
type Props = {
  name: string;
  sampleName: string;
  layout: Layout;
  change: (layout: Layout) => void;
  setLight: (light: Light) => void;
};

/** The elements of an XML sample as a tree with counts, and what the layout makes of each. */
export function ElementsView({ name, sampleName, layout, change, setLight }: Props) {
  const tree = useQuery({
    queryKey: ["bench", "layout", name, "elements", sampleName],
    queryFn: () => ask(api.GET("/api/v1/layouts/{layout}/elements", { params: { path: { layout: name } } })),
  });
  if (tree.isError)
    return (
      <div className="p-3">
        <Trouble error={tree.error} />
      </div>
    );
  const branches = tree.data?.branches ?? [];
  const withNames = (next: RecordType[]): Layout => ({
    ...layout,
    format: {
      ...(layout.format as Xml),
      namespaces: { ...tree.data?.namespaces, ...(layout.format as Xml).namespaces },
    },
    recordTypes: next,
  });
  const types = layout.recordTypes;
  return (
    <section className="h-full overflow-auto" aria-label="Elements of the sample" tabIndex={0}>
      <table className="w-full border-collapse text-sm">
        <thead className="sticky top-0 z-10 bg-sunk text-left text-xs text-faint">
          <tr className="border-b border-line">
            <th className="py-1 pr-3 pl-4">Element</th>
            <th className="pr-3 text-right">Times</th>
            <th className="pr-3">In the layout</th>
            <th className="pr-3">Such as</th>
          </tr>
        </thead>
        <tbody>
          {branches.map((b) => {
            const type = types.findIndex((t) => pathOf(t) === b.path);
            const owner = ownerOf(types, b.path);
            const relative = owner < 0 ? undefined : b.path.slice(pathOf(types[owner]).length + 1);
            const field = owner < 0 ? -1 : types[owner].fields.findIndex((f) => f.path === relative);
            const leaf = b.path.includes("@") || !branches.some((o) => o.path.startsWith(`${b.path}/`));
            return (
              <tr key={b.path} className="border-b border-line hover:bg-paper">
                <td className="data py-0.5 pr-3" style={{ paddingLeft: 16 + b.depth * 18 }}>
                  {lastStep(b.path)}
                </td>
                <td className="data pr-3 text-right">
                  {count(b.count)}
                  {b.mostInOne > 1 && (
                    <span className="text-faint" title="the most that stand in one parent">
                      {" "}
                      ≤{count(b.mostInOne)}
                    </span>
                  )}
                </td>
                <td className="pr-3 whitespace-nowrap">
                  {type >= 0 && <strong>record type {types[type].name}</strong>}
                  {type < 0 && field >= 0 && (
                    <button
                      type="button"
                      className="text-pine hover:underline"
                      onClick={() => setLight({ type: owner, field })}
                    >
                      {types[owner].name}.{types[owner].fields[field].name}
                    </button>
                  )}
                  {type < 0 && field < 0 && leaf && owner >= 0 && relative && (
                    <Button
                      look="quiet"
                      className="h-6 px-1.5 text-xs"
                      onClick={() => change(withNames(addField(types, owner, relative)))}
                    >
                      Add as a field of {types[owner].name}
                    </Button>
                  )}
                  {type < 0 && !leaf && (
                    <Button
                      look="quiet"
                      className="h-6 px-1.5 text-xs"
                      onClick={() => change(withNames(addType(types, b, branches)))}
                    >
                      Make it a record type
                    </Button>
                  )}
                </td>
                <td className="data max-w-64 truncate pr-3 text-faint">{b.example ?? ""}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {tree.data && !tree.data.whole && (
        <p className="px-4 py-2 text-xs text-faint">
          Counted up to the place where the file ends or cannot be read on.
        </p>
      )}
    </section>
  );
}

function pathOf(type: RecordType): string {
  return type.when?.by === "path" ? type.when.path : "";
}

function lastStep(path: string): string {
  return path.slice(path.lastIndexOf("/") + 1);
}

/** The record type in whose element a path stands: the innermost one. */
function ownerOf(types: RecordType[], path: string): number {
  let owner = -1;
  for (const [i, t] of types.entries()) {
    const own = pathOf(t);
    if (path.startsWith(`${own}/`) && (owner < 0 || own.length > pathOf(types[owner]).length)) owner = i;
  }
  return owner;
}

function plain(step: string): string {
  return step.replace(/^@/, "").replace(/^.*:/, "").replaceAll(".", "-");
}

function free(name: string, taken: string[]): string {
  for (let n = 1; ; n++) {
    const wanted = n === 1 ? name : `${name}${n}`;
    if (!taken.includes(wanted)) return wanted;
  }
}

function newField(path: string, taken: string[]): Field {
  return { name: free(plain(lastStep(path)), taken), path, type: { is: "text", length: 255 } };
}

function addField(types: RecordType[], owner: number, path: string): RecordType[] {
  return types.map((t, i) =>
    i === owner
      ? {
          ...t,
          fields: [
            ...t.fields,
            newField(
              path,
              t.fields.map((f) => f.name),
            ),
          ],
        }
      : t,
  );
}

/** A record type for an element, with the texts and attributes that stand once in it for fields. */
function addType(types: RecordType[], b: Branch, branches: Branch[]): RecordType[] {
  const owner = ownerOf(types, b.path);
  const fields: Field[] = [];
  for (const o of branches) {
    const inside = o.path.startsWith(`${b.path}/`);
    const leaf = !branches.some((x) => x.path.startsWith(`${o.path}/`));
    const once = branches.every(
      (x) =>
        !(o.path === x.path || o.path.startsWith(`${x.path}/`)) || x.path.length <= b.path.length || x.mostInOne <= 1,
    );
    if (inside && leaf && once)
      fields.push(
        newField(
          o.path.slice(b.path.length + 1),
          fields.map((f) => f.name),
        ),
      );
  }
  const made: RecordType = {
    name: free(
      plain(lastStep(b.path)),
      types.map((t) => t.name),
    ),
    when: { by: "path", path: b.path },
    parent: owner < 0 ? undefined : types[owner].name,
    fields: fields.length > 0 ? fields : [{ name: "text", path: ".", type: { is: "text", length: 255 } }],
  };
  return [...types, made];
}
