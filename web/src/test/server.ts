import { http, HttpResponse } from 'msw';
import { setupServer } from 'msw/node';
import type { Schemas } from '../shared/api/http';

/** Stands for the application's server; each test says what it answers. */
export const server = setupServer();

type Method = 'get' | 'post' | 'put' | 'delete';

/** Answers one address, and keeps what was sent to it. */
export function answers(method: Method, path: string, body: unknown, status = 200) {
  const asked: { body: unknown; key: string | null; url: URL }[] = [];
  server.use(
    http[method](`*${path}`, async ({ request }) => {
      const text = await request.clone().text();
      asked.push({
        body: text === '' ? null : (JSON.parse(text) as unknown),
        key: request.headers.get('Idempotency-Key'),
        url: new URL(request.url),
      });
      return HttpResponse.json(body as object, { status });
    }),
  );
  return asked;
}

/** A refusal as the server words it. */
export const refusal = (code: string, detail: string): Partial<Schemas['Problem']> => ({
  code,
  detail,
  instead: '',
  others: [],
});
