import createClient, { type Middleware } from 'openapi-fetch';
import type { paths } from './schema';

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

/** Called when the session has ended meanwhile; whoever listens lets a person sign in on top of what is shown. */
let onSignedOut: () => void = () => {};
export function whenSignedOut(listen: () => void): void {
  onSignedOut = listen;
}

const problems: Middleware = {
  onRequest({ request }) {
    request.headers.set('Accept', 'application/json');
    request.headers.set('X-CSRF-TOKEN', csrf);
  },
  async onResponse({ response }) {
    if (response.ok) return;
    let said: Partial<Problem> = {};
    try {
      said = (await response.clone().json()) as Partial<Problem>;
    } catch {
      // A proxy's own page; the status says enough.
    }
    if ((response.status === 401 || response.status === 419) && !response.url.endsWith('/session'))
      onSignedOut();
    const tooLarge = response.status === 413;
    throw new Problem(
      response.status,
      said.type ?? '',
      said.title ?? (tooLarge ? 'Too large' : 'This did not work'),
      said.detail ?? (tooLarge ? 'The limit for an upload is 40 MB.' : `The answer was ${response.status}.`),
      said.errors ?? {},
    );
  },
  onError({ error }) {
    if (error instanceof Problem || (error instanceof DOMException && error.name === 'AbortError'))
      return error;
    return new Problem(0, 'offline', 'Ylema does not answer', 'Check that it still runs, then try again.');
  },
};

export const client = createClient<paths>({ baseUrl: '/api', credentials: 'same-origin' });
client.use(problems);

/** The body of an answer; whatever was no success was thrown before. */
export async function body<T>(call: Promise<{ data?: T }>): Promise<T> {
  return (await call).data as T;
}
