import type { Schemas } from "../api/client";
import type { Layout } from "../definitions";

/** What of a layout its sample has no value for: places of fields by record type. */
export type SampleUse = {
  isUsed: (type: number, field: number) => boolean;
  isTypeUsed: (type: number) => boolean;
  unusedFields: number;
  unusedTypes: number;
};

/** What the bench counted, where that is of the layout as it is now and anything is left unused. */
export function sampleUse(layout: Layout, counts?: Schemas["TypeCount"][]): SampleUse | undefined {
  const types = layout.recordTypes;
  const same =
    counts?.length === types.length &&
    types.every((t, i) => counts[i].fields.length === t.fields.length && counts[i].name === t.name);
  if (!counts || !same || counts.every((c) => c.records === 0)) return undefined;
  const isUsed = (type: number, field: number) => (counts[type]?.filled[field] ?? 1) > 0;
  const isTypeUsed = (type: number) => (counts[type]?.records ?? 1) > 0;
  const unusedTypes = types.filter((_, t) => !isTypeUsed(t)).length;
  const unusedFields = types.reduce(
    (n, t, i) => n + (isTypeUsed(i) ? t.fields.filter((_, f) => !isUsed(i, f)).length : t.fields.length),
    0,
  );
  return unusedFields + unusedTypes > 0 ? { isUsed, isTypeUsed, unusedFields, unusedTypes } : undefined;
}

/** The layout without what its sample does not use; a record type keeps one field at least. */
export function withoutUnused(layout: Layout, use: SampleUse): Layout {
  return {
    ...layout,
    recordTypes: layout.recordTypes.flatMap((t, type) => {
      if (!use.isTypeUsed(type)) return [];
      const fields = t.fields.filter((_, field) => use.isUsed(type, field));
      return [{ ...t, fields: fields.length > 0 ? fields : t.fields.slice(0, 1) }];
    }),
  };
}
