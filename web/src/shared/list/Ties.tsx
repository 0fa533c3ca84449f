import { useQuery } from '@tanstack/react-query';
import { Fragment } from 'react';
import { Link } from 'react-router';
import { figure, orDash } from '../format';
import { Ring } from '../ui';
import { isOfDay, totalsQuery, wordsOf, type Asked, type ListView } from './api';

/** What the figures of a register account for in the ledger, and whether it says the same. */
export function Ties({ list, asked }: { list: ListView; asked: Asked }) {
  const totals = useQuery(totalsQuery(list.name, asked)).data;
  if (!totals) return <div className="ties muted">…</div>;
  const { proof } = totals;
  if (!proof)
    return (
      <div className="ties muted">
        The ledger stands beside it where nothing but the {isOfDay(list) ? 'day' : wordsOf(list.columns, list.day)} is
        filtered.
      </div>
    );
  const holds = proof.figures.every((tied) => tied.agrees);
  // of what stood at the end of a day, the month is shown that ended so
  const from = proof.from ?? (proof.to && isOfDay(list) ? `${proof.to.slice(0, 7)}-01` : null);
  const days = from && proof.to ? `&from=${from}&to=${proof.to}` : '';
  return (
    <div className="ties" role="note" aria-label="The ledger of the same days">
      <span className="nowrap">
        <Ring holds={holds} /> <strong>{holds ? 'Ties to the ledger' : 'Does not tie to the ledger'}</strong>
      </span>
      {proof.figures.map((tied) => (
        <span key={tied.figure}>
          <span className="muted">{wordsOf(list.columns, tied.figure)}</span>{' '}
          {tied.accounts.length === 0 && (isOfDay(list) ? 'nothing stood there' : 'nothing moved')}
          {tied.accounts.map((moved, at) => (
            <Fragment key={moved.account}>
              {at > 0 && ' + '}
              <Link className="mono" to={`/ledger/account?account=${moved.account}${days}`}>
                {moved.account}
              </Link>{' '}
              {moved.name} {figure(moved.amount)}
            </Fragment>
          ))}
          {tied.accounts.length > 1 && ` = ${figure(tied.ledger)}`}
          {' · '}
          <span className={tied.agrees ? undefined : 'error'}>difference {orDash(tied.difference)}</span>
        </span>
      ))}
    </div>
  );
}
