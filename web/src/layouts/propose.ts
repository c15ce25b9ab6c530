import { type Schemas, sendFiles } from "../api/client";
import type { Origin } from "./recognise";

export type Proposal = Schemas["ProposalView"];

/** The most of a sample that is sent to propose a layout from. */
const startBytes = 4 << 20;

/** A layout proposed from samples of one kind. */
export async function propose(files: File[], name: string, title: string): Promise<Proposal> {
  // The start of a package, such as a workbook, tells nothing without its end.
  const whole = await Promise.all(files.map(async (f) => (await f.slice(0, 2).text()) === "PK"));
  const starts = files.map((f, i) => (whole[i] ? f : new File([f.slice(0, startBytes)], f.name)));
  return sendFiles<Proposal>("POST", "/api/v1/layouts/proposal", starts, { name, title });
}

/** A layout proposed from whatever there is. */
export function proposeFrom(origin: Origin, title: string): Promise<Proposal> {
  const name = "proposed";
  if (origin.from === "sample") return propose(origin.files, name, title);
  const files = origin.text?.trim() ? [new File([origin.text], "pasted")] : origin.files;
  const fields = {
    name,
    title,
    from: origin.from,
    charset: origin.charset ?? "",
    taken: (origin.taken ?? []).join(","),
  };
  return sendFiles<Proposal>("POST", "/api/v1/layouts/import", files, fields);
}
