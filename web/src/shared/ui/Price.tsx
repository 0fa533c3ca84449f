import { isZero, price, trim } from '../format';
import type { Column } from './Table';

/** What a discount takes off a price; nothing where there is none. */
export function Discount({ of }: { of: string }) {
  return isZero(of) ? null : <span className="muted small"> −{trim(of)} %</span>;
}

/** The price of each line, with its discount. */
export const priceColumn = <Line extends { price: string; discount: string }>(): Column<Line> => ({
  head: 'Price',
  num: true,
  cell: (line) => (
    <>
      {price(line.price)}
      <Discount of={line.discount} />
    </>
  ),
});
