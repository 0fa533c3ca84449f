import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '../../shared/api/http';
import { date } from '../../shared/format';
import { rulesQuery } from '../rules';

/** What an order says beside its lines, in one line; nothing where it says nothing. */
export function DetailsLine({ details }: { details: Schemas['DetailsView'] }) {
  const entry = useQuery(rulesQuery).data?.entry;
  const { shipTo } = details;
  const parts: [string, string][] = [];
  if (shipTo)
    parts.push([
      'Ships to',
      [shipTo.name, shipTo.street, `${shipTo.postcode} ${shipTo.town}`.trim(), shipTo.country]
        .filter(Boolean)
        .join(', '),
    ]);
  if (details.replaces) parts.push(['Replaces goods of', details.replaces]);
  if (details.externalReference) parts.push(['External reference', details.externalReference]);
  if (details.revenueUnit)
    parts.push([
      'Revenue unit',
      entry?.units.find((unit) => unit.code === details.revenueUnit)?.name ?? details.revenueUnit,
    ]);
  for (const [code, value] of Object.entries(details.fields)) {
    const field = entry?.fields.find((one) => one.code === code);
    parts.push([field?.label ?? code, field?.kind === 'DATE' ? date(value) : value]);
  }
  if (parts.length === 0) return null;
  return (
    <div className="facts">
      {parts.map(([label, value]) => (
        <div key={label} className="breaks">
          <span className="muted">{label}</span> {value}
        </div>
      ))}
    </div>
  );
}
