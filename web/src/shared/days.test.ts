import { describe, expect, it } from 'vitest';
import { parseDay } from './days';

describe('a day that is typed', () => {
  it.each([
    ['2 Mar 2026', '2026-03-02'],
    ['2 March 2026', '2026-03-02'],
    ['2026-03-02', '2026-03-02'],
    ['  29 Feb 2028 ', '2028-02-29'],
  ])('%s is %s', (text, day) => {
    expect(parseDay(text)).toBe(day);
  });

  it.each(['', '2', '2 Mar', '31 Feb 2026', '29 Feb 2026', '02/03/2026', '2026-13-01', 'tomorrow'])(
    'is not guessed from "%s"',
    (text) => {
      expect(parseDay(text)).toBeNull();
    },
  );
});
