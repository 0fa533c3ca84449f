import { describe, expect, it } from 'vitest';
import { titleOf } from './title';

describe('the title of a page', () => {
  it('names the document', () => {
    expect(titleOf('Order :number', { number: 'SO-1004' })).toBe('Order SO-1004 \u00b7 Euthyna');
  });

  it('names the tab in words', () => {
    expect(titleOf('Billing :tab', { tab: 'past-due' })).toBe('Billing \u00b7 past due \u00b7 Euthyna');
  });

  it('leaves out what the address does not say', () => {
    expect(titleOf('Review :number', {})).toBe('Review \u00b7 Euthyna');
    expect(titleOf('Billing :tab', {})).toBe('Billing \u00b7 Euthyna');
  });
});
