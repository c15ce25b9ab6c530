/** Numbers, times and durations as every screen writes them. */

export function count(n: number): string {
  return n.toLocaleString("en").replaceAll(",", "\u202f");
}

export function plural(n: number, one: string, many = `${one}s`): string {
  return `${count(n)} ${n === 1 ? one : many}`;
}

/** Names one behind the other; of many the first, and how many more there are. */
export function few(names: string[], most = 3): string {
  return names.length <= most + 1
    ? names.join(", ")
    : `${names.slice(0, most).join(", ")} and ${count(names.length - most)} more`;
}

export function moment(iso: string | null | undefined): string {
  if (!iso) return "–";
  const d = new Date(iso);
  const pad = (n: number) => String(n).padStart(2, "0");
  return `${d.getFullYear()}-${pad(d.getMonth() + 1)}-${pad(d.getDate())} ${clock(iso)}`;
}

export function clock(iso: string): string {
  const d = new Date(iso);
  return [d.getHours(), d.getMinutes(), d.getSeconds()].map((n) => String(n).padStart(2, "0")).join(":");
}

/** A time to come: the clock alone while it is today. */
export function coming(iso: string): string {
  return new Date(iso).toDateString() === new Date().toDateString() ? clock(iso) : moment(iso);
}

/** A time of a day where the person is; nothing where the day is none. */
export function instant(day: string | undefined, time: string): string | undefined {
  const at = new Date(`${day}T${time}`);
  return day && !Number.isNaN(at.getTime()) ? at.toISOString() : undefined;
}

export function duration(millis: number): string {
  if (millis < 1000) return `${Math.round(millis)} ms`;
  const s = Math.round(millis / 100) / 10;
  if (s < 60) return `${s} s`;
  const minutes = Math.floor(s / 60);
  return minutes < 60 ? `${minutes} min ${Math.round(s % 60)} s` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

export function bytes(n: number): string {
  if (n < 1024) return `${n} B`;
  if (n < 1024 * 1024) return `${(n / 1024).toFixed(1)} KiB`;
  return n < 1024 ** 3 ? `${(n / 1024 ** 2).toFixed(1)} MiB` : `${(n / 1024 ** 3).toFixed(2)} GiB`;
}

const controls =
  "NUL SOH STX ETX EOT ENQ ACK BEL BS TAB LF VT FF CR SO SI DLE DC1 DC2 DC3 DC4 NAK SYN ETB CAN EM SUB ESC FS GS RS US".split(
    " ",
  );

/** Control characters made visible by their names (ISO/IEC 6429) in angle marks. */
export function visible(text: string): string {
  return text.replace(/[\u0000-\u001f\u007f]/g, (c) => `‹${controls[c.charCodeAt(0)] ?? "DEL"}›`);
}

/** The name that a title gives: lower case letters, digits and hyphens. */
export function slug(title: string): string {
  return title
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 60)
    .replace(/-+$/, "");
}

/** A title from the name of a file. */
export function titleOf(fileName: string): string {
  const words = fileName
    .replace(/\.[^.]*$/, "")
    .replace(/[_\d-]+$/g, "")
    .replace(/[_-]+/g, " ")
    .replace(/ [A-Z]?\d+.*$/, "")
    .trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}
