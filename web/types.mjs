// Makes the types of definitions (a job, a layout, …) from docs/schema, and those of the API from its description, which uses them.
import { readFileSync, writeFileSync } from "node:fs";
import openapiTS, { astToString } from "openapi-typescript";
import ts from "typescript";

const files = ["job", "layout", "code-list"];

/** The schemas of definitions as parts of one document, each by its name. */
function readDefinitions() {
  const parts = {};
  const names = new Map();
  for (const file of files) {
    const { $id, $defs, ...whole } = JSON.parse(readFileSync(`../docs/schema/${file}.schema.json`, "utf8"));
    names.set($id, whole.title);
    for (const [name, part] of Object.entries({ ...$defs, [whole.title]: whole })) {
      if (parts[name]) throw new Error(`Two parts of docs/schema are called ${name}.`);
      parts[name] = part;
    }
  }
  const here = (_, value) => value.$ref ? { ...value, $ref: `#/components/schemas/${names.get(value.$ref) ?? value.$ref.split("/").pop()}` } : value;
  return JSON.parse(JSON.stringify(parts), (key, value) => (value && typeof value === "object" ? here(key, value) : value));
}

/** The definitions, by the names of the parts that hold them. */
const definitions = {
  job: "Job",
  layout: "Layout",
  list: "CodeList",
  delivery: "Delivery",
  rule: "Rule",
  rules: "Rule",
  aside: "SetAside",
  choices: "DataType",
};

const described = ["type", "$ref", "enum", "oneOf", "anyOf", "allOf"];
const DEFINITION = "x-definition";

/** The definitions that are the whole of what is sent. */
const bodies = [
  [/^\/api\/v1\/target$/, "Target"],
  [/^\/api\/v1\/layouts\//, "Layout"],
];

/** Says of each part without a description of its own which definition it is. */
function mark(description) {
  for (const schema of Object.values(description.components.schemas)) {
    for (const [name, part] of Object.entries(schema.properties ?? {})) {
      const one = part.items ?? part;
      if (definitions[name] && !described.some((word) => word in one))
        part[DEFINITION] = { name: definitions[name], several: part !== one };
    }
  }
  for (const [path, operations] of Object.entries(description.paths))
    for (const operation of Object.values(operations))
      for (const { schema } of Object.values(operation.requestBody?.content ?? {})) {
        const name = bodies.find(([address]) => address.test(path))?.[1];
        if (name && Object.keys(schema).every((word) => word === "type" && schema.type === "object"))
          schema[DEFINITION] = { name };
      }
  return description;
}

function typeOf({ name, several }) {
  const one = ts.factory.createTypeReferenceNode(name);
  return several ? ts.factory.createArrayTypeNode(one) : one;
}

async function write(file, description, options, before = "") {
  writeFileSync(`src/api/${file}`, before + astToString(await openapiTS(description, options)));
}

await write(
  "definitions.d.ts",
  { openapi: "3.1.0", info: { title: "definitions", version: "1" }, paths: {}, components: { schemas: readDefinitions() } },
  { rootTypes: true, rootTypesNoSchemaPrefix: true, defaultNonNullable: false },
);
const imports = [...new Set([...Object.values(definitions), ...bodies.map(([, name]) => name)])].sort().join(", ");
await write(
  "schema.d.ts",
  mark(JSON.parse(readFileSync("openapi.json", "utf8"))),
  { transform: (schema) => schema[DEFINITION] && typeOf(schema[DEFINITION]) },
  `import type { ${imports} } from "./definitions";\n\n`,
);
