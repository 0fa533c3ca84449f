import { describe, expect, it } from 'vitest';
import { figure, isZero, nearness, orDash, price, trim } from './format';

describe('figures', () => {
  it('are grouped as text, with a true minus, and nothing is computed', () => {
    expect(figure('1234567.80')).toBe('1,234,567.80');
    expect(figure('-1862.29')).toBe('\u2212 1,862.29');
    expect(figure('999')).toBe('999');
    expect(figure('123456789012345678.99')).toBe('123,456,789,012,345,678.99');
  });
  it('that are zero or missing show a dash where zeros only distract', () => {
    expect(orDash('0.00')).toBe('–');
    expect(orDash('-0')).toBe('–');
    expect(isZero('0.010')).toBe(false);
    expect(figure(null)).toBe('–');
  });
  it('of prices keep two decimalMark, of quantities none that say nothing', () => {
    expect(price('2.3500')).toBe('2.35');
    expect(price('0.3333')).toBe('0.3333');
    expect(price('10.0000')).toBe('10.00');
    expect(trim('14.500')).toBe('14.5');
    expect(trim('100')).toBe('100');
  });
});

describe('nearness', () => {
  it('is said in words', () => {
    expect(nearness('2026-03-02', '2026-03-02')).toBe('due today');
    expect(nearness('2026-03-01', '2026-03-02')).toBe('1 day late');
    expect(nearness('2026-03-03', '2026-03-02')).toBe('due tomorrow');
    expect(nearness('2026-03-09', '2026-03-02')).toBe('due 9 Mar');
  });
});
