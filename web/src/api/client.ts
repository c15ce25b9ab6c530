import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

/** A problem as the server tells it (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly part?: string,
  ) {
    super(message);
  }
}

export function csrfToken(): string {
  return decodeURIComponent(document.cookie.match(/(?:^|; )XSRF-TOKEN=([^;]*)/)?.[1] ?? "");
}

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-XSRF-TOKEN", csrfToken());
    return request;
  },
};

const client = createClient<paths>({ baseUrl: "/" });
client.use(withToken);
export const api = client;

/** The data of an answer, or a Problem thrown. */
export async function ask<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer: { data?: T; error?: unknown; response: Response };
  try {
    answer = await call;
  } catch {
    throw new Problem(0, "Ninepin does not answer. Is it running?");
  }
  if (!answer.response.ok) throw problem(answer.response.status, answer.error);
  return answer.data as T;
}

function problem(status: number, error: unknown): Problem {
  const detail = error as { detail?: string; title?: string; part?: string } | undefined;
  // A request without its token is refused without a word: the cookies are gone, and the session with them.
  const out = status === 401 || (status === 403 && !detail?.detail);
  if (out) window.dispatchEvent(new Event("signed-out"));
  const message = detail?.detail ?? (out ? "You are signed out." : (detail?.title ?? `Error ${status}`));
  return new Problem(status, message, detail?.part);
}

/** Sends a file with further fields. */
export function sendFile<T>(method: "POST" | "PUT", path: string, file: File, fields: Record<string, string> = {}) {
  return sendFiles<T>(method, path, [file], fields);
}

/** Sends files with further fields. */
export async function sendFiles<T>(
  method: "POST" | "PUT",
  path: string,
  files: File[],
  fields: Record<string, string> = {},
) {
  const body = new FormData();
  for (const file of files) body.append("file", file);
  for (const [name, value] of Object.entries(fields)) body.append(name, value);
  const response = await fetch(path, { method, body, headers: { "X-XSRF-TOKEN": csrfToken() } });
  const answer = response.headers.get("content-type")?.includes("json") ? await response.json() : undefined;
  if (!response.ok) throw problem(response.status, answer);
  return answer as T;
}

/** Fetches bytes as a file; its name is the one that is given, or else the server's. */
export async function fetchFile(path: string, name?: string): Promise<File> {
  const response = await fetch(path);
  if (!response.ok) throw problem(response.status, await response.json().catch(() => undefined));
  const own = /filename="?([^";]+)/.exec(response.headers.get("content-disposition") ?? "")?.[1];
  return new File([await response.blob()], name ?? own ?? "file");
}

/** Saves a file on the person's machine; a problem is thrown instead of being saved. */
export async function download(path: string, name?: string) {
  const file = await fetchFile(path, name);
  const link = document.createElement("a");
  link.href = URL.createObjectURL(file);
  link.download = file.name;
  link.click();
  URL.revokeObjectURL(link.href);
}
