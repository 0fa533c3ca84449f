import { delay, http, HttpResponse } from 'msw';
import { describe, expect, it, vi } from 'vitest';
import { answers, refusal, server } from '../../test/server';
import { answer, client, once, Problem, whenSessionEnds } from './http';

const waive = () =>
  answer(
    client.POST('/api/orders/{number}/waivers', {
      params: { path: { number: 'SO-1' } },
      body: { version: 1, findings: ['credit-limit'], reason: 'agreed' },
      ...once(),
    }),
  );

const problemOf = async (request: Promise<unknown>): Promise<Problem> => {
  const failed: unknown = await request.catch((problem: unknown) => problem);
  expect(failed).toBeInstanceOf(Problem);
  return failed as Problem;
};

describe('a command', () => {
  it('that is refused says why, by its code', async () => {
    answers('post', '/api/orders/SO-1/waivers', refusal('four-eyes', 'You wrote it.'), 403);
    expect(await problemOf(waive())).toMatchObject({ status: 403, code: 'four-eyes', message: 'You wrote it.' });
  });

  it('keeps its key until an answer came, and has a new one then', async () => {
    const lost: (string | null)[] = [];
    server.use(
      http.post('*/api/orders/SO-1/waivers', ({ request }) => {
        lost.push(request.headers.get('Idempotency-Key'));
        return HttpResponse.error();
      }),
    );
    expect(await problemOf(waive())).toMatchObject({ code: 'unreachable' });
    expect(await problemOf(waive())).toMatchObject({ code: 'unreachable' });
    const asked = answers('post', '/api/orders/SO-1/waivers', { done: true });
    await waive();
    await waive();
    expect(lost[0]).toMatch(/^[0-9a-f-]{36}$/);
    expect([lost[1], asked[0]?.key]).toEqual([lost[0], lost[0]]);
    expect(asked[1]?.key).not.toBe(lost[0]);
  });

  it('that a proxy answers may have been carried out: it keeps its key', async () => {
    const asked: (string | null)[] = [];
    server.use(
      http.post('*/api/orders/SO-1/waivers', async ({ request }) => {
        asked.push(request.headers.get('Idempotency-Key'));
        await delay(1);
        return new HttpResponse('<html>Bad gateway</html>', { status: 502 });
      }),
    );
    expect(await problemOf(waive())).toMatchObject({ status: 502, message: 'The server answered with 502.' });
    await problemOf(waive());
    expect(asked[1]).toBe(asked[0]);
  });

  it('sends the token of the session', async () => {
    document.cookie = 'XSRF-TOKEN=a%2Fb';
    let token: string | null = null;
    server.use(
      http.post('*/api/orders/SO-1/waivers', ({ request }) => {
        token = request.headers.get('X-XSRF-TOKEN');
        return HttpResponse.json({});
      }),
    );
    await waive();
    expect(token).toBe('a/b');
  });
});

describe('a session that ended', () => {
  it('is told, and the question fails', async () => {
    const ended = vi.fn();
    whenSessionEnds(ended);
    answers('get', '/api/today', refusal('not-signed-in', 'Sign in.'), 401);
    expect(await problemOf(answer(client.GET('/api/today')))).toMatchObject({ status: 401 });
    expect(ended).toHaveBeenCalledOnce();
  });
});
