import { afterEach, describe, expect, it } from 'vitest';
import { readFigure, saidBack, takeDecimalMark } from './figures';

afterEach(() => {
  takeDecimalMark('POINT');
});

describe('a figure that is typed', () => {
  it.each([
    ['1234', '1234'],
    ['1234.5', '1234.5'],
    ['1,234', '1234'],
    ['1,234,567.89', '1234567.89'],
    ['1 234.50', '1234.50'],
    ['1’234.50', '1234.50'],
    ['.5', '0.5'],
    ['12.', '12'],
    ['  7 ', '7'],
    ['', ''],
  ])('%s is %s where decimals follow a point', (text, figure) => {
    expect(readFigure(text)).toBe(figure);
  });

  it.each(['12,50', '1,23', '1,2345', '1.234,50', '1.2.3', '12a', '-5', '1e3', ',', '.', '1,,234', '1234,567'])(
    '%s is none there',
    (text) => {
      expect(readFigure(text)).toBeNull();
      expect(saidBack(text)).toBe('no figure; decimals follow a point');
    },
  );

  it.each([
    ['1.234', '1234'],
    ['1,234', '1.234'],
    ['12,50', '12.50'],
    ['1.234.567,89', '1234567.89'],
  ])('%s is %s where decimals follow a comma', (text, figure) => {
    takeDecimalMark('COMMA');
    expect(readFigure(text)).toBe(figure);
  });

  it('is less than nothing only where it may be', () => {
    expect(readFigure('-18.5')).toBeNull();
    expect(readFigure('-18.5', true)).toBe('-18.5');
    expect(readFigure('\u22121,234', true)).toBe('-1234');
    expect(readFigure('-', true)).toBeNull();
    expect(readFigure('--5', true)).toBeNull();
  });

  it('is said back where it could be taken for another', () => {
    expect(saidBack('1234')).toBeNull();
    expect(saidBack('1,234')).toBe('read as 1234');
    takeDecimalMark('COMMA');
    expect(saidBack('1,234')).toBe('read as 1.234');
    expect(saidBack('12,50')).toBe('read as 12.50');
    expect(saidBack('1.234')).toBe('read as 1234');
  });
});
