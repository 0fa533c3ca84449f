import type { Schemas } from '../../shared/api/http';
import { figure, trim } from '../../shared/format';

/** Net, VAT by category and rate, and gross of a document (EN 16931-1 BG-22, BG-23). */
export function VatTotals({ of }: { of: { net: string; gross: string; bands: Schemas['VatBandView'][] } }) {
  return (
    <div className="totals">
      <span>
        net <b>{figure(of.net)}</b>
      </span>
      {of.bands.map((band) => (
        <span key={band.category + band.rate}>
          VAT {band.category} {trim(band.rate)} % on {figure(band.taxable)} <b>{figure(band.vat)}</b>
        </span>
      ))}
      <span>
        gross <b>{figure(of.gross)}</b>
      </span>
    </div>
  );
}
