import { useQuery } from '@tanstack/react-query';
import { Fragment } from 'react';
import { Link } from 'react-router';
import { figure, orDash } from '../format';
import { Ring } from '../ui';
import { totalsQuery, type Asked, type ListView } from './api';

/** What the figures of a register account for in the ledger, and whether it says the same. */
export function Ties({ list, asked }: { list: ListView; asked: Asked }) {
  const totals = useQuery(totalsQuery(list.name, asked)).data;
  if (!totals) return null;
  const { proof } = totals;
  if (!proof) {
    const day = list.columns.find((column) => column.name === list.day)?.words;
    return <p className="muted">The ledger stands beside it where nothing but the {day} is filtered.</p>;
  }
  const holds = proof.figures.every((tied) => tied.agrees);
  const days = proof.from && proof.to ? `&from=${proof.from}&to=${proof.to}` : '';
  return (
    <section className="ties" aria-label="The ledger of the same days">
      <div>
        <Ring holds={holds} /> <strong>{holds ? 'Ties to the ledger' : 'Does not tie to the ledger'}</strong>
      </div>
      {proof.figures.map((tied) => (
        <div key={tied.figure}>
          <span className="muted">{list.columns.find((column) => column.name === tied.figure)?.words}</span>{' '}
          {figure(tied.registered)} = {tied.accounts.length === 0 && 'nothing moved'}
          {tied.accounts.map((moved, at) => (
            <Fragment key={moved.account}>
              {at > 0 && ' + '}
              <Link className="mono" to={`/ledger/account?account=${moved.account}${days}`}>
                {moved.account}
              </Link>{' '}
              {moved.name} {figure(moved.amount)}
            </Fragment>
          ))}
          {' · '}
          <span className={tied.agrees ? undefined : 'error'}>difference {orDash(tied.difference)}</span>
        </div>
      ))}
    </section>
  );
}
