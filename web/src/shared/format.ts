import dayjs from 'dayjs';

const MINUS = '\u2212';

/** Groups a figure as it came from the server; nothing is computed. */
export function figure(text: string | null | undefined): string {
  if (text === null || text === undefined || text === '') return '\u2013';
  const negative = text.startsWith('-');
  const [whole = '', decimals] = (negative ? text.slice(1) : text).split('.');
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, ',') + (decimals === undefined ? '' : `.${decimals}`);
  return negative ? `${MINUS} ${grouped}` : grouped;
}

/** Whether a figure is zero, whatever its decimals. */
export const isZero = (text: string | null | undefined) => !text || /^-?0*(\.0*)?$/.test(text);

/** A figure, or a dash where it is zero: for columns in which zeros only distract. */
export const orDash = (text: string | null | undefined) => (isZero(text) ? '\u2013' : figure(text));

/** A quantity to be typed over: without trailing zeros. */
export const plain = (text: string) => (text.includes('.') ? text.replace(/\.?0+$/, '') : text);

/** A unit price to be typed over: without the decimals that say nothing beyond the second. */
export const plainPrice = (text: string) => text.replace(/(\.\d{2}\d*?)0+$/, '$1');

/** A unit price as it is shown. */
export const price = (text: string | null | undefined) => (text ? figure(plainPrice(text)) : '\u2013');

/** A quantity as it is shown. */
export const trim = (text: string) => figure(plain(text));

export const date = (text: string | null | undefined) => (text ? dayjs(text).format('D MMM YYYY') : '\u2013');
export const shortDate = (text: string | null | undefined) => (text ? dayjs(text).format('D MMM') : '\u2013');

/** A point in time: 2 Mar 2026, 14:05. */
export const moment = (text: string) => dayjs(text).format('D MMM YYYY, HH:mm');

/** How a day stands to today, in words. */
export function nearness(text: string, today: string): string {
  const days = dayjs(text).diff(dayjs(today), 'day');
  if (days === 0) return 'due today';
  if (days < 0) return days === -1 ? '1 day late' : `${-days} days late`;
  return days === 1 ? 'due tomorrow' : `due ${shortDate(text)}`;
}

/** How long ago a day was, in words. */
export function daysAgo(text: string, today: string): string {
  const days = dayjs(today).diff(dayjs(text), 'day');
  return days <= 0 ? 'today' : days === 1 ? 'yesterday' : `${days} days`;
}

export function age(text: string | null | undefined, today: string): string {
  if (!text) return '';
  const days = dayjs(today).diff(dayjs(text), 'day');
  return days <= 0 ? 'since today' : days === 1 ? 'since yesterday' : `for ${days} days`;
}

/** ON_ACCOUNT becomes 'on account'. */
export const words = (code: string) => (code === 'WRITE_OFF' ? 'write-off' : code.toLowerCase().replaceAll('_', ' '));
export const Words = (code: string) => capital(words(code));

/** A clause as the beginning of a sentence. */
export const capital = (text: string) => text.replace(/^./, (first) => first.toUpperCase());
