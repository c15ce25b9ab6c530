// Makes the types of the API from its description. What it calls a definition (a job, a layout, …) is described by docs/schema, and
// typed in src/definitions.ts.
import { readFileSync, writeFileSync } from "node:fs";
import openapiTS, { astToString } from "openapi-typescript";
import ts from "typescript";

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

const nodes = await openapiTS(mark(JSON.parse(readFileSync("openapi.json", "utf8"))), {
  transform: (schema) => schema[DEFINITION] && typeOf(schema[DEFINITION]),
});
const imports = [...new Set([...Object.values(definitions), ...bodies.map(([, name]) => name)])].sort().join(", ");
writeFileSync("src/api/schema.d.ts", `import type { ${imports} } from "../definitions";\n\n${astToString(nodes)}`);
