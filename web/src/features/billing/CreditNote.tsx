import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { answer, client } from '../../shared/api/http';
import { date, figure, isZero, trim } from '../../shared/format';
import { Doc, Waiting } from '../../shared/ui';
import { MailButton, PrintButton } from '../paper';
import { WaysOut } from './WaysOut';

/** A credit note with what it is for, and what of it is still to the customer's credit. */
export function CreditNotePage() {
  const { number = '' } = useParams();
  const query = useQuery({
    queryKey: ['billing', 'credit-note', number],
    queryFn: () => answer(client.GET('/api/credit-notes/{number}', { params: { path: { number } } })),
  });
  const credit = query.data;
  if (!credit) return <Waiting query={query} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            Credit note <span className="mono">{credit.number}</span> · <Link to={`/customers/${encodeURIComponent(credit.customer)}`}>{credit.customerName}</Link>
          </h1>
          <span className="muted nowrap">
            <WaysOut kind="CREDIT_NOTE" number={credit.number} />
          </span>
        </div>
        <p className="situation">
          € {figure(credit.gross)} of invoice <Doc kind="INVOICE" number={credit.invoice} /> credited on {date(credit.on)}: {credit.reason}.{' '}
          {isZero(credit.left) ? 'All of it is put to use.' : `€ ${figure(credit.left)} of it are customer credit.`}
        </p>
        <table className="rows">
          <thead>
            <tr>
              <th className="num">Line</th>
              <th>Item</th>
              <th>Order</th>
              <th>Return</th>
              <th className="num">Invoice line</th>
              <th className="num">Quantity</th>
              <th className="num">Kept back</th>
              <th className="num">VAT</th>
              <th className="num">Net €</th>
            </tr>
          </thead>
          <tbody>
            {credit.lines.map((line) => (
              <tr key={line.no}>
                <td className="num">{line.no}</td>
                <td>
                  {line.description} <span className="mono muted small nowrap">{line.item}</span>
                </td>
                <td>
                  <Doc kind="ORDER" number={line.order} />
                </td>
                <td>{line.returnNumber ? <Doc kind="RETURN" number={line.returnNumber} /> : <span className="muted">without goods</span>}</td>
                <td className="num">{line.invoiceLine}</td>
                <td className="num">{isZero(line.quantity) ? '–' : trim(line.quantity)}</td>
                <td className="num">{isZero(line.fee) ? '–' : figure(line.fee)}</td>
                <td className="num">
                  {line.vatCategory} {trim(line.vatRate)} %
                </td>
                <td className="num">{figure(line.net)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="totals">
          <span>
            net <b>{figure(credit.net)}</b>
          </span>
          <span>
            VAT <b>{figure(credit.vat)}</b>
          </span>
          <span>
            gross <b>{figure(credit.gross)}</b>
          </span>
        </div>
      </div>
      <div className="bar">
        <PrintButton paper="CREDIT_NOTE" numbers={[credit.number]}>
          Print
        </PrintButton>
        <MailButton paper="CREDIT_NOTE" number={credit.number} />
        <span className="gap" />
        <Link className="small" to={`/ledger/journal?document=${credit.number}`}>
          Its entries
        </Link>
      </div>
    </div>
  );
}
