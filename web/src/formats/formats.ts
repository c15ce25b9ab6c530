import type { Format } from "../definitions";
import { delimited } from "./delimited";
import { fixedLength } from "./fixed-length";
import type { FormatView } from "./format-view";
import { json } from "./json";
import { workbook } from "./workbook";
import { xml } from "./xml";

/** The formats that there are. */
const views: { [K in Format["kind"]]: FormatView<Extract<Format, { kind: K }>> } = {
  delimited,
  "fixed-length": fixedLength,
  json,
  workbook,
  xml,
};

/** All that is to be known of how a file is written. */
export function viewOf(format: Format): FormatView<Format> {
  return views[format.kind];
}

/** What files of a kind are called. */
export function kindLabel(kind: string): string {
  return Object.entries(views).find(([name]) => name === kind)?.[1].label ?? kind;
}

/** How a file is written, in words. */
export function formatWords(format: Format): string {
  return viewOf(format).words(format);
}
