import { Popover } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { capital, date, figure, isZero, shortDate, words } from '../../shared/format';
import { Doc, Mark, placeOf } from '../../shared/ui';
import { SideBySide } from './SideBySide';
import type { Finding, Sheet } from './api';

const SHADES = ['#A8987A', '#C4B697', '#DCD1B8', 'repeating-linear-gradient(135deg, #C98A93 0 3px, #EBC9CD 3px 6px)'];

/** One finding with its evidence: what was computed, from which figures, and where they come from. */
export function FindingRow({ finding, sheet }: { finding: Finding; sheet?: Sheet }) {
  const state = finding.state === 'OPEN' ? finding.severity : finding.state;
  return (
    <div className="finding" style={finding.state === 'OPEN' ? undefined : { color: 'var(--muted)' }}>
      <div>
        <div className="nowrap">
          <Mark of={state} />
          <b>{finding.title}</b>
        </div>
        <div className="muted small inset-left-15">
          {state.toLowerCase()} · since {shortDate(finding.since)}
        </div>
      </div>
      <div>
        <Evidence finding={finding} sheet={sheet} />
        {finding.state === 'WAIVED' && (
          <div className="small">
            Waived by {finding.waivedBy} on {date(finding.waivedOn)}: {finding.waiverReason}
          </div>
        )}
      </div>
    </div>
  );
}

/** The request for approval: why it was made, who has agreed, whose word is missing. */
export function ApprovalRow({ approval }: { approval: NonNullable<Sheet['approval']> }) {
  const awaiting = approval.state === 'AWAITING';
  if (!awaiting && approval.approvals.length === 0) return null;
  return (
    <div className="finding" style={awaiting ? undefined : { color: 'var(--muted)' }}>
      <div>
        <div className="nowrap">
          <Mark of={awaiting ? 'awaiting' : 'settled'} />
          <b>Approval</b>
        </div>
        <div className="muted small inset-left-15">
          {words(approval.state)} · since {shortDate(approval.askedOn)}
        </div>
      </div>
      <div>
        {approval.reasons.map((reason) => (
          <div key={reason}>{capital(reason)}</div>
        ))}
        {approval.approvals.map((one, index) => (
          <div className="small" key={index}>
            For {one.level}: approved by {one.by} on {date(one.on)}
            {one.reason && `: ${one.reason}`}
          </div>
        ))}
        {approval.waitsFor && <div>Waiting for {approval.waitsFor}</div>}
      </div>
    </div>
  );
}

function Evidence({ finding, sheet }: { finding: Finding; sheet?: Sheet }) {
  if (finding.limit != null && finding.formula.length > 0) {
    return (
      <>
        <Measure terms={finding.formula} limit={finding.limit} exposure={finding.result ?? ''} />
        <Formula terms={finding.formula} />
        <div>
          = <b>{figure(finding.result)}</b> exposure · limit {figure(finding.limit)} ·{' '}
          <b className="error">{figure(finding.excess)} over</b>
        </div>
      </>
    );
  }
  return (
    <>
      {finding.formula.length > 0 && finding.limit == null && <div>{capital(finding.sentence)}:</div>}
      {finding.formula.length > 0 && <Formula terms={finding.formula} />}
      {finding.formula.length + finding.matches.length + finding.lines.length + finding.facts.length === 0 && (
        <div>{capital(finding.sentence)}.</div>
      )}
      {finding.facts.map((fact) => (
        <div key={fact}>
          {capital(fact)}.{sheet && <Where check={finding.check} fact={fact} sheet={sheet} />}
        </div>
      ))}
      {finding.matches.map((match) => (
        <Match key={match.order} match={match} sheet={sheet} />
      ))}
      {finding.limit != null && (
        <div>
          Together <b>{figure(finding.result)}</b>, ceiling {figure(finding.limit)}:{' '}
          <b className="error">{figure(finding.excess)} over</b>
        </div>
      )}
      {finding.lines.map((line) => (
        <div key={line.line}>
          Line {line.line}, <Link to={placeOf('ITEM', line.item)}>{line.description}</Link>: {line.sentence}.
        </div>
      ))}
    </>
  );
}

/** The page on which the figures of a fact can be followed up. */
function Where({ check, fact, sheet }: { check: string; fact: string; sheet: Sheet }) {
  const item = sheet.order.lines.find((line) => line.item && fact.startsWith(`${line.item} `))?.item;
  if (item) return <Link to={placeOf('ITEM', item)}> Sales of the item</Link>;
  return check === 'unusual' ? <Link to={placeOf('CUSTOMER', sheet.order.customer)}> Customer’s orders</Link> : null;
}

const KINDS: Record<string, string> = { SAME: 'Same number', ALIKE: 'Same when normalised', NEAR: 'Near match' };

/** A document that has the PO number already; an order can be laid beside this one. */
function Match({ match, sheet }: { match: Schemas['MatchView']; sheet?: Sheet }) {
  const [beside, setBeside] = useState(false);
  const imported = match.place === 'IMPORTED';
  return (
    <div>
      {KINDS[match.kind] ?? 'Counted'}: <span className="mono">{match.po}</span>{' '}
      {imported ? (
        <>
          on invoice <span className="mono">{match.order}</span> imported
        </>
      ) : (
        <>
          on order <Doc kind="ORDER" number={match.order} />
        </>
      )}{' '}
      of {date(match.on)}, net {figure(match.net)}
      {!imported && (match.invoices.length > 0 ? ', billed as ' : ', not billed yet')}
      {!imported &&
        match.invoices.map((invoice) => (
          <span key={invoice}>
            <Doc kind="INVOICE" number={invoice} />{' '}
          </span>
        ))}
      {sheet && !imported && (
        <button className="plain small after-10" aria-expanded={beside} onClick={() => setBeside(!beside)}>
          {beside ? 'Close' : 'Compare'}
        </button>
      )}
      {sheet && beside && <SideBySide sheet={sheet} other={match.order} />}
    </div>
  );
}

/** The exposure's terms against the limit, as lengths on one measure. */
function Measure({ terms, limit, exposure }: { terms: Schemas['TermView'][]; limit: string; exposure: string }) {
  const added = terms.filter((term) => term.sign === '+');
  const whole =
    Math.max(
      added.reduce((sum, term) => sum + Number(term.amount), 0),
      Number(limit),
    ) * 1.04 || 1;
  const share = (amount: string) => `${(Number(amount) / whole) * 100}%`;
  return (
    <div className="measure" role="img" aria-label={`exposure ${exposure} against a limit of ${limit}`}>
      {added.map((term, index) => (
        <i
          key={term.label}
          style={{ width: share(term.amount), background: SHADES[index] }}
          title={`${term.label} ${figure(term.amount)}`}
        />
      ))}
      <b style={{ left: share(limit) }} title={`limit ${figure(limit)}`} />
    </div>
  );
}

/** A formula with the figures in it; each opens the documents behind it. */
function Formula({ terms }: { terms: Schemas['TermView'][] }) {
  return (
    <div className="formula">
      {terms.map((term, index) => (
        <span key={term.label} className="nowrap">
          {(index > 0 || term.sign !== '+') && `${term.sign} `}
          <Figure term={term} /> <span className="muted">{term.label}</span>
        </span>
      ))}
    </div>
  );
}

function Figure({ term }: { term: Schemas['TermView'] }) {
  if (term.documents.length === 0) return <>{figure(term.amount)}</>;
  return (
    <Popover position="bottom-start" withArrow={false} trapFocus returnFocus>
      <Popover.Target>
        <button className="figure">{figure(term.amount)}</button>
      </Popover.Target>
      <Popover.Dropdown>
        {term.documents.map((document) => (
          <div className="pair" key={document.number}>
            <Doc kind={document.kind} number={document.number} />
            <span>{figure(document.amount)}</span>
          </div>
        ))}
      </Popover.Dropdown>
    </Popover>
  );
}

/** Where a customer stands, term by term. */
export function Position({
  name,
  position,
  call,
}: {
  name: string;
  position: Schemas['PositionView'];
  /** whom one would call about it */
  call?: Schemas['PersonToCall'];
}) {
  return (
    <section>
      <h2>{name}</h2>
      {position.terms
        .filter((term) => !isZero(term.amount))
        .map((term) => (
          <div className="pair" key={term.label}>
            <span>{term.label}</span>
            <span>
              {term.sign === '+' ? '' : `${term.sign} `}
              <Figure term={term} />
            </span>
          </div>
        ))}
      <div className="pair strong">
        <span>Exposure</span>
        <span>{figure(position.exposure)}</span>
      </div>
      <div className="pair">
        <span>Limit</span>
        <span>{position.limit == null ? 'none' : figure(position.limit)}</span>
      </div>
      {call && <Call person={call} />}
    </section>
  );
}

/** Whom to call, at a touch. */
function Call({ person: { name, phone, email } }: { person: Schemas['PersonToCall'] }) {
  if (!name && !phone && !email) return <div className="muted above-6">Nobody to call is known.</div>;
  return (
    <div className="above-6">
      {name && <div>{name}</div>}
      {phone && (
        <div>
          <a className="nowrap" href={`tel:${phone.replaceAll(' ', '')}`}>
            {phone}
          </a>
        </div>
      )}
      {email && (
        <div className="breaks">
          <a href={`mailto:${email}`}>{email}</a>
        </div>
      )}
    </div>
  );
}
