/** Requests to the service, and its problems as errors. */

/** The service answered, and refused; the message is a sentence for people. */
export class Problem extends Error {
  readonly status: number;
  readonly code: string;

  constructor(status: number, code: string, detail: string) {
    super(detail);
    this.status = status;
    this.code = code;
  }
}

/** The service could not be reached. */
export class Unreachable extends Error {
  constructor() {
    super("The connection to Glyphaneme is lost. What you do waits here and is sent then.");
  }
}

/** Send a request; returns the answer if it is a success. */
export async function send(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, init);
  } catch {
    throw new Unreachable();
  }
  if (!response.ok) throw problemOf(response.status, await response.text().catch(() => ""));
  return response;
}

/** Ask for JSON. */
export async function getJson<T>(path: string): Promise<T> {
  return (await send(path)).json() as Promise<T>;
}

/** Send JSON and return the answer's JSON. */
export async function sendJson<T>(path: string, body: unknown, method = "POST"): Promise<T> {
  const response = await sendBody(path, body, method);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

/** Send JSON and return the answer as it is. */
export function sendBody(path: string, body: unknown, method = "POST"): Promise<Response> {
  return send(path, {
    method,
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });
}

/** Make an error of a refusal's body. */
export function problemOf(status: number, body: string): Problem {
  try {
    const { type, detail } = JSON.parse(body) as { type?: string; detail?: string };
    return new Problem(status, type?.split(":").at(-1) ?? "", detail ?? `Status ${status}.`);
  } catch {
    return new Problem(status, "", `The service answered with status ${status}.`);
  }
}
