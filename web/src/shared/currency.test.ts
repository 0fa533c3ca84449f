import { describe, expect, it } from 'vitest';
import { currency, symbolOf, takeCurrency } from './currency';

describe('the currency of the company', () => {
  it.each([
    ['EUR', '€'],
    ['GBP', '£'],
    ['USD', '$'],
    ['CHF', 'CHF'],
  ])('%s is written %s', (code, symbol) => {
    expect(symbolOf(code)).toBe(symbol);
  });

  it('is that of the session', () => {
    takeCurrency('GBP');
    expect(currency()).toBe('£');
    takeCurrency('EUR');
    expect(currency()).toBe('€');
  });
});
