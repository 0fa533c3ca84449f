import createClient from 'openapi-fetch';
import { CommandKeys, newKey, storage } from './commandKeys';
import { DATED, withDate } from './dated';
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
    /** what is wrong with each field that is missing or not well formed */
    readonly fields: Record<string, string> = {},
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

const KEY = 'Idempotency-Key';

/** From here on something between us and the server answered, which does not know whether the command was carried out. */
const NO_ANSWER = 502;

/** Keys of commands that no answer came to. */
const keys = new CommandKeys(storage());

/** What a command says; of a file its name and what is in it. */
async function contentOf(request: Request): Promise<string> {
  const what = `${request.method} ${request.url}\n`;
  if (!request.headers.get('Content-Type')?.startsWith('multipart/')) return what + (await request.clone().text());
  const parts: string[] = [];
  for (const [name, part] of await request.clone().formData())
    parts.push(part instanceof File ? `${name} ${part.name} ${await part.text()}` : `${name} ${part}`);
  return what + parts.join('\n');
}

/** A command with the date that its documents carry. */
async function dated(request: Request, path: string): Promise<Request> {
  const command = `${request.method} ${path}`;
  if (!DATED.has(command)) return request;
  const said = await request.clone().text();
  const dated = withDate(command, said);
  return dated === said ? request : new Request(request, { body: dated });
}

client.use({
  async onRequest({ request: asked, schemaPath }) {
    const request = await dated(asked, schemaPath);
    // the token changes at sign-in, so it is read each time
    const token = /(?:^|; )XSRF-TOKEN=([^;]+)/.exec(document.cookie)?.[1];
    if (token) request.headers.set('X-XSRF-TOKEN', decodeURIComponent(token));
    if (request.headers.has(KEY)) request.headers.set(KEY, await keys.of(await contentOf(request), newKey));
    return request;
  },
  onResponse({ request, response }) {
    if (request.headers.has(KEY) && response.status < NO_ANSWER) keys.answered(request.headers.get(KEY) ?? '');
    if (response.status === 401) sessionEnded();
    return response;
  },
});

/** The header of a command; which key it has goes by what it says, until an answer came. */
export const once = () => ({ headers: { [KEY]: 'to be given' } });

/** A file as a form sends it; the interface describes it as a text. */
export const upload = (file: File) => ({
  body: { file: file as unknown as string },
  bodySerializer: () => {
    const form = new FormData();
    form.append('file', file);
    return form;
  },
});

let told: () => void = () => undefined;

/** The server no longer knows who sits here. */
export const sessionEnded = () => told();

/** Who is told of that. */
export const whenSessionEnds = (tell: () => void) => {
  told = tell;
};

/** The data of an answer, or a thrown problem. */
export async function answer<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result;
  try {
    result = await request;
  } catch {
    throw new Problem(
      0,
      'unreachable',
      'The server did not answer. Try again: a command is carried out once, however often it is sent.',
      '',
      [],
    );
  }
  if (result.response.ok && result.data !== undefined) return result.data;
  const body = (result.error ?? {}) as Partial<Schemas['Problem']>;
  throw new Problem(
    result.response.status,
    body.code ?? 'unknown',
    body.detail ?? `The server answered with ${result.response.status}.`,
    body.instead ?? '',
    body.others ?? [],
    body.fields ?? {},
  );
}
