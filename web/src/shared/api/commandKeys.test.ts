import { describe, expect, it } from 'vitest';
import { CommandKeys, newKey } from './commandKeys';

const memory = () => {
  const kept = new Map<string, string>();
  return {
    getItem: (name: string) => kept.get(name) ?? null,
    setItem: (name: string, value: string) => void kept.set(name, value),
  };
};

describe('the key of a command', () => {
  it('stays while no answer came, also when the page is loaded again', async () => {
    const store = memory();
    const first = await new CommandKeys(store).of('POST /api/payments 5', newKey);
    expect(await new CommandKeys(store).of('POST /api/payments 5', newKey)).toBe(first);
  });

  it('is another one for other words, and after an answer', async () => {
    const keys = new CommandKeys(memory());
    const first = await keys.of('POST /api/payments 5', newKey);
    expect(await keys.of('POST /api/payments 6', newKey)).not.toBe(first);
    keys.answered(first);
    expect(await keys.of('POST /api/payments 5', newKey)).not.toBe(first);
  });

  it('is forgotten when the server has forgotten it', async () => {
    let now = 0;
    const keys = new CommandKeys(memory(), () => now);
    const first = await keys.of('POST /api/payments 5', newKey);
    now = 7 * 24 * 3_600_000 + 1;
    expect(await keys.of('POST /api/payments 5', newKey)).not.toBe(first);
  });

  it('is a UUID of version 4', () => {
    expect(newKey()).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  });
});
