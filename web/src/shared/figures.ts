/** What parts whole units from decimals, in this company: a point or a comma. */
let mark: '.' | ',' = '.';

export const takeDecimalMark = (of: 'POINT' | 'COMMA') => {
  mark = of === 'COMMA' ? ',' : '.';
};

export const decimalMark = () => mark;

/**
 * A figure as somebody typed it, in the form in which it is sent: digits and a point. Thousands may be grouped by the other mark, a
 * blank or an apostrophe, where every group is whole; whatever could be read in two ways is not read.
 *
 * @param signed whether it may be less than nothing
 * @returns null for what is no figure; empty for nothing
 */
export function readFigure(text: string, signed = false): string | null {
  const typed = text.trim();
  if (signed && /^[-\u2212]/.test(typed)) {
    const read = readFigure(typed.slice(1));
    return read ? `-${read}` : null;
  }
  if (typed === '') return '';
  const [whole = '', decimals, ...more] = typed.split(mark);
  if (more.length > 0 || (decimals !== undefined && !/^\d*$/.test(decimals))) return null;
  const groups = whole.split(mark === '.' ? /[,\s’']/ : /[.\s’']/);
  const [first = '', ...rest] = groups;
  if (
    !/^\d*$/.test(first) ||
    (rest.length > 0 && (!/^\d{1,3}$/.test(first) || !rest.every((group) => /^\d{3}$/.test(group))))
  )
    return null;
  const digits = groups.join('');
  if (digits === '' && !decimals) return null;
  return (digits || '0') + (decimals ? `.${decimals}` : '');
}

/** How a figure was read, where what was typed could be taken for another: without groups, and after a point as it is shown. */
export function saidBack(text: string, signed = false): string | null {
  const read = readFigure(text, signed);
  if (read === null) return `no figure; decimals follow a ${mark === '.' ? 'point' : 'comma'}`;
  return read !== '' && /[^\d]/.test(text.trim().replace(/^-/, '')) ? `read as ${read}` : null;
}

/** A whole number as somebody typed it; nothing where there is none. */
export const wholeOf = (text: string) => (/^\d+$/.test(text.trim()) ? Number(text) : undefined);
