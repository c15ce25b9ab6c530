/** What stands inside a text: something encoded or structured that one would rather see opened. */
export type Inside = { kind: "base64" | "JSON" | "XML"; opened: string };

const base64 = /^[A-Za-z0-9+/]{12,}={0,2}$/;

/** Opens a text that is JSON, XML or base64, and what base64 holds likewise; nothing where it is plain. */
export function insideOf(text: string): Inside | undefined {
  const t = text.trim();
  if (/^[[{]/.test(t)) {
    try {
      return { kind: "JSON", opened: JSON.stringify(JSON.parse(t), null, 2) };
    } catch {
      return undefined;
    }
  }
  if (/^<[A-Za-z_?]/.test(t)) {
    const opened = formattedXml(t);
    return opened === undefined ? undefined : { kind: "XML", opened };
  }
  if (!looksEncoded(t)) return undefined;
  const bytes = Uint8Array.from(atob(t), (c) => c.charCodeAt(0));
  return { kind: "base64", opened: shownBytes(bytes) };
}

/** Whether a text looks like base64 (RFC 4648, 4): whole groups of four, and not just a word or a number. */
export function looksEncoded(text: string): boolean {
  const t = text.trim();
  if (t.length % 4 !== 0 || !base64.test(t)) return false;
  const kinds = [/[a-z]/, /[A-Z]/, /[0-9+/=]/].filter((k) => k.test(t)).length;
  return kinds === 3;
}

/** Decoded bytes: as text where they are text, opened once more where that is structured; else in hexadecimal. */
function shownBytes(bytes: Uint8Array): string {
  try {
    const text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
    if (![...text].some((c) => c < " " && !"\r\n\t".includes(c))) {
      const inner = looksEncoded(text) ? undefined : insideOf(text);
      return inner ? inner.opened : text;
    }
  } catch {
    // Not text.
  }
  const lines: string[] = [];
  for (let at = 0; at < Math.min(bytes.length, 4_096); at += 16) {
    const row = [...bytes.slice(at, at + 16)];
    const hex = row.map((b) => b.toString(16).padStart(2, "0")).join(" ");
    const text = row.map((b) => (b >= 32 && b < 127 ? String.fromCharCode(b) : "·")).join("");
    lines.push(`${at.toString(16).padStart(6, "0")}  ${hex.padEnd(47)}  ${text}`);
  }
  return lines.join("\n");
}

/** XML with each element on its own line; nothing where it is not well-formed. */
function formattedXml(text: string): string | undefined {
  if (/<!DOCTYPE/i.test(text)) return undefined;
  const document = new DOMParser().parseFromString(text, "application/xml");
  if (document.querySelector("parsererror")) return undefined;
  const lines: string[] = [];
  const write = (e: Element, depth: number) => {
    const pad = "  ".repeat(depth);
    const attributes = [...e.attributes].map((a) => ` ${a.name}="${a.value}"`).join("");
    if (e.children.length === 0) {
      const own = e.textContent?.trim() ?? "";
      lines.push(own ? `${pad}<${e.tagName}${attributes}>${own}</${e.tagName}>` : `${pad}<${e.tagName}${attributes}/>`);
      return;
    }
    lines.push(`${pad}<${e.tagName}${attributes}>`);
    for (const child of e.childNodes) {
      if (child instanceof Element) write(child, depth + 1);
      else if (child.textContent?.trim()) lines.push(`${pad}  ${child.textContent.trim()}`);
    }
    lines.push(`${pad}</${e.tagName}>`);
  };
  write(document.documentElement, 0);
  return lines.join("\n");
}

/** What the values of a column all look like, when it is more than text: three of them at least. */
export function kindOf(values: (string | null | undefined)[]): Inside["kind"] | undefined {
  const some = values.filter((v): v is string => !!v).slice(0, 40);
  if (some.length < 3) return undefined;
  const kinds = new Set(some.map((v) => (looksEncoded(v) ? "base64" : insideOf(v)?.kind)));
  return kinds.size === 1 ? [...kinds][0] : undefined;
}
