/** A refused or failed request, as problem details (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly type: string,
    readonly title: string,
    readonly detail: string,
    readonly errors: Record<string, string[]> = {},
  ) {
    super(detail || title);
  }
}

let csrf = document.querySelector<HTMLMetaElement>('meta[name="csrf-token"]')?.content ?? '';

/** Signing in and out renews the session, and with it the token. */
export function setCsrf(token: string): void {
  csrf = token;
}

interface Options {
  method?: 'GET' | 'POST' | 'DELETE';
  body?: unknown;
  signal?: AbortSignal | undefined;
}

export async function api<T>(path: string, { method = 'GET', body, signal }: Options = {}): Promise<T> {
  const headers: Record<string, string> = { Accept: 'application/json', 'X-CSRF-TOKEN': csrf };
  if (body !== undefined && !(body instanceof FormData)) headers['Content-Type'] = 'application/json';
  let response: Response;
  try {
    response = await fetch(`/api/${path}`, {
      method,
      headers,
      body: body === undefined ? null : body instanceof FormData ? body : JSON.stringify(body),
      credentials: 'same-origin',
      signal: signal ?? null,
    });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new Problem(0, 'offline', 'Ylema does not answer', 'Check that it still runs, then try again.');
  }
  if (response.status === 204) return undefined as T;
  const text = await response.text();
  let data: unknown = null;
  try {
    data = JSON.parse(text);
  } catch {
    // A proxy's own page; the status says enough.
  }
  if (!response.ok) {
    const p = (data ?? {}) as Partial<Problem>;
    throw new Problem(
      response.status,
      p.type ?? '',
      p.title ?? (response.status === 413 ? 'Too large' : 'This did not work'),
      p.detail ??
        (response.status === 413
          ? 'The limit for an upload is 40 MB.'
          : `The answer was ${response.status}.`),
      p.errors ?? {},
    );
  }
  return data as T;
}
