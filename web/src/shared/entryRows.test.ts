import { describe, expect, it } from 'vitest';
import { withEmptyLast } from './entryRows';

const written = (row: string) => row !== '';

describe('rows of an entry table', () => {
  it('end with an empty one, also where there is none yet', () => {
    expect(withEmptyLast([], written, '')).toEqual(['']);
    expect(withEmptyLast(['rope'], written, '')).toEqual(['rope', '']);
  });

  it('get no second empty one', () => {
    const rows = ['rope', ''];
    expect(withEmptyLast(rows, written, '')).toBe(rows);
  });

  it('keep an empty one between written ones', () => {
    expect(withEmptyLast(['', 'rope'], written, '')).toEqual(['', 'rope', '']);
  });
});
