import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];

/** A refusal, or anything else that kept a request from being answered. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    detail: string,
    readonly instead: string,
    readonly others: string[],
  ) {
    super(detail);
  }
}

declare module '@tanstack/react-query' {
  // merging into the library's own interface takes an interface
  // eslint-disable-next-line @typescript-eslint/consistent-type-definitions
  interface Register {
    defaultError: Problem;
  }
}

export const client = createClient<paths>({ baseUrl: '', fetch: (request) => globalThis.fetch(request) });

client.use({
  onRequest({ request }) {
    // the token changes at sign-in, so it is read each time
    const token = /(?:^|; )XSRF-TOKEN=([^;]+)/.exec(document.cookie)?.[1];
    if (token) request.headers.set('X-XSRF-TOKEN', decodeURIComponent(token));
    return request;
  },
});

/** The header of a command: one key for one press of a button, however often it is sent. */
export const once = () => ({ headers: { 'Idempotency-Key': crypto.randomUUID() } });

/** The data of an answer, or a thrown problem. */
export async function answer<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result;
  try {
    result = await request;
  } catch {
    throw new Problem(0, 'unreachable', 'The server did not answer. Check the document before you try again.', '', []);
  }
  if (result.response.ok && result.data !== undefined) return result.data;
  const body = (result.error ?? {}) as Partial<Schemas['Problem']>;
  throw new Problem(
    result.response.status,
    body.code ?? 'unknown',
    body.detail ?? `The server answered with ${result.response.status}.`,
    body.instead ?? '',
    body.others ?? [],
  );
}
