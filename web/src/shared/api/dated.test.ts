import { readFileSync } from 'node:fs';
import { afterEach, describe, expect, it } from 'vitest';
import { dateDocuments, DATED, withDate } from './dated';

type Api = {
  paths: Record<string, Record<string, { requestBody?: { content: Record<string, { schema: { $ref?: string } }> } }>>;
  components: { schemas: Record<string, { properties?: object }> };
};

afterEach(() => {
  dateDocuments({ date: null, reason: '' });
});

describe('the date of documents', () => {
  it('goes with every command that takes one, as the interface says', () => {
    const api = JSON.parse(readFileSync('openapi.json', 'utf8')) as Api;
    const taking = Object.entries(api.paths).flatMap(([path, commands]) =>
      Object.entries(commands)
        .filter(([, { requestBody }]) => {
          const name = requestBody?.content['application/json']?.schema.$ref?.split('/').at(-1);
          return 'date' in (api.components.schemas[name ?? '']?.properties ?? {});
        })
        .map(([method]) => `${method.toUpperCase()} ${path}`),
    );
    expect([...DATED].sort()).toEqual(taking.sort());
  });

  it('is said only where it is not today, and never over one that was given', () => {
    const body = '{"amount":"5"}';
    expect(withDate('POST /api/payments', body)).toBe(body);
    dateDocuments({ date: '2026-11-20', reason: 'came late' });
    expect(JSON.parse(withDate('POST /api/payments', body))).toEqual({
      amount: '5',
      date: '2026-11-20',
      reason: 'came late',
    });
    expect(JSON.parse(withDate('POST /api/refunds', '{"date":"2026-11-01","reason":"overpaid"}'))).toEqual({
      date: '2026-11-01',
      reason: 'overpaid',
    });
    expect(withDate('POST /api/orders/{number}/waivers', body)).toBe(body);
  });
});
