// Joins two CycloneDX documents: what the server is made of, and what the interface is made of, with the Java runtime.
import { readFileSync, writeFileSync } from "node:fs";

const [serverFile, interfaceFile, result, version, vendor] = process.argv.slice(2);
const read = (file) => JSON.parse(readFileSync(file, "utf8"));
const server = read(serverFile);
const web = read(interfaceFile);
const known = new Set((server.components ?? []).map((c) => c["bom-ref"]));
const runtime = {
  type: "platform",
  "bom-ref": `java-runtime@${version}`,
  name: "Java runtime",
  version,
  publisher: vendor,
};
server.components = [
  ...(server.components ?? []),
  ...(web.components ?? []).filter((c) => !known.has(c["bom-ref"])),
  runtime,
]
  // Where they stand on this machine is nobody's business.
  .map(({ evidence, properties, ...component }) => component);
server.dependencies = [...(server.dependencies ?? []), ...(web.dependencies ?? [])];
writeFileSync(result, `${JSON.stringify(server, null, 1)}\n`);
