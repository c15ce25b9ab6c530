/** What is lit up: a record, a field of a record type, in all views at once. */
export type Light = { record?: number; type?: number; field?: number };
