/** What a layout is made from. */
export type Origin = {
  from: "sample" | "xsd" | "schema" | "copybook" | "header";
  files: File[];
  text?: string;
  charset?: string;
  /** Of each part that is described in several ways, the one taken. */
  taken?: string[];
};

/** How much of a file tells what it is. */
const startBytes = 1 << 16;

const schema = /<(?:[\w.-]+:)?schema\b[^>]*\bxmlns(?::[\w.-]+)?\s*=\s*["']http:\/\/www\.w3\.org\/2001\/XMLSchema["']/;
/** A JSON Schema names its draft, an OpenAPI document its version. */
const jsonSchema = /"\$schema"\s*:\s*"https?:\/\/json-schema\.org\/|^\s*"?openapi"?\s*:\s*["']?3\./m;
/** A level number, a name and a picture, ended by a full stop. */
const copybook = /^.{0,6}\s*\d{2}\s+[A-Za-z][\w-]*\s+PIC(?:TURE)?\s+(?:IS\s+)?[-\w().+$*,/]+.*\.\s*$/im;

/** What files are that were given as samples: a schema or a copybook says so itself. */
export async function recognise(files: File[]): Promise<Origin["from"]> {
  const starts = await Promise.all(files.map((f) => f.slice(0, startBytes).text()));
  // A document may come with the schema that describes it.
  if (starts.some((s) => schema.test(s)) && starts.every((s) => s.trimStart().replace("\ufeff", "").startsWith("<")))
    return "xsd";
  if (starts.length === 1 && jsonSchema.test(starts[0] ?? "")) return "schema";
  return starts.length === 1 && copybook.test(starts[0] ?? "") ? "copybook" : "sample";
}
