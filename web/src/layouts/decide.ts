import type { Check, Field, FileCheck, Layout } from "../definitions";
import type { Proposal } from "./propose";

/** What a person made of the proposal of one field. */
export type Decision = { out?: boolean; name?: string; choice?: number; codes?: boolean; key?: boolean };

/** The decisions by record type and proposed name, and the checks of the file that are left out. */
export type Decisions = { fields: Record<string, Decision>; checksOut: number[] };

/** The proposed layout with the decisions carried out; checks of the file that lost a field are left out. */
export function decided(proposal: Proposal, decisions: Decisions): Layout {
  const layout = proposal.layout;
  const profiles = new Map(proposal.fields.map((f) => [`${f.recordType}.${f.name}`, f]));
  const recordTypes = layout.recordTypes.map((t) => ({
    ...t,
    fields: t.fields.flatMap((f): Field[] => {
      const key = `${t.name}.${f.name}`;
      const d = decisions.fields[key] ?? {};
      const profile = profiles.get(key);
      if (d.out) return [];
      const type = profile?.choices[d.choice ?? 0] ?? f.type;
      const added: Check[] = [];
      if (d.codes) added.push({ rule: "one-of", values: profile?.likelyCodes ?? [], severity: "reject" });
      if (d.key) added.push({ rule: "unique", with: [], severity: "reject" });
      return [{ ...f, name: d.name?.trim() || f.name, type, checks: [...(f.checks ?? []), ...added] }];
    }),
  }));
  const named = (field: string): string | undefined => {
    const d = decisions.fields[field] ?? {};
    return d.out
      ? undefined
      : `${field.slice(0, field.indexOf("."))}.${d.name?.trim() || field.slice(field.indexOf(".") + 1)}`;
  };
  const fileChecks = (layout.fileChecks ?? []).flatMap((c, i): FileCheck[] => {
    if (decisions.checksOut.includes(i)) return [];
    if (c.rule === "records") return [c];
    const field = named(c.field);
    const of = c.rule === "total" ? named(c.of) : undefined;
    const as = c.rule === "same" ? named(c.as) : undefined;
    if (!field || (c.rule === "total" && !of) || (c.rule === "same" && !as)) return [];
    return [{ ...c, field, ...(of && { of }), ...(as && { as }) } as FileCheck];
  });
  return { ...layout, recordTypes: recordTypes.filter((t) => t.fields.length > 0), fileChecks };
}
