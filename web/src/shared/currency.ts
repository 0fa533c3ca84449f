/*
 * The currency of the company, as the session says. It is one for the whole company and does not change while anybody
 * is signed in, so it is kept beside the figures that it stands with rather than handed through every component.
 */
let symbol = '';

/** How the company's currency is written beside a figure: its symbol where it has one, else its code. */
export const currency = () => symbol;

/** Takes over the currency of a session: a code of ISO 4217. */
export function takeCurrency(code: string) {
  symbol = symbolOf(code);
}

/** € for EUR, £ for GBP, CHF for CHF. */
export function symbolOf(code: string): string {
  const parts = new Intl.NumberFormat('en-GB', {
    style: 'currency',
    currency: code,
    currencyDisplay: 'narrowSymbol',
  }).formatToParts(0);
  return parts.find((part) => part.type === 'currency')?.value ?? code;
}
