import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { Link, useSearchParams } from 'react-router';
import { currency } from '../currency';
import { figure } from '../format';
import { Waiting } from '../ui';
import { Table } from '../ui/Table';
import { Choice } from '../ui/fields';
import { asking, useAsked } from './address';
import { groupsQuery, type Column, type Group, type ListView } from './api';
import { figureOf } from './columns';

const Bars = lazy(() => import('./Bars'));

/** By what rows are put together: days in three ways. */
const byOf = (list: ListView): [string, string][] =>
  list.columns
    .filter((column) => column.isGrouped)
    .flatMap((column) =>
      column.kind === 'DAY'
        ? (['day', 'week', 'month'] as const).map((step): [string, string] => [
            `${column.name}.${step}`,
            `${column.words} by ${step}`,
          ])
        : [[column.name, column.words] as [string, string]],
    );

const measureWords = (column: Column) => (column.measure === 'MEDIAN' ? `median ${column.words}` : column.words);

const ofOf = (list: ListView): [string, string][] => [
  ['count', `number of ${list.many}`],
  ...list.columns
    .filter((column) => column.measure)
    .map((column): [string, string] => [column.name, measureWords(column)]),
];

/** What is charted unless something else is asked for: a register by its days, all else by its first word or name. */
export function firstChart(list: ListView): string {
  const by = byOf(list);
  const own = by.find(([name]) => name === `${list.day}.day`) ?? by.find(([name]) => !name.includes('.')) ?? by[0];
  const measures = ofOf(list);
  const of = (list.isRegister ? measures[1] : undefined) ?? measures[0];
  return own && of ? `${own[0]}:${of[0]}` : '';
}

/** What is put together of the small ones: beside it none of the others could be told apart. */
const isRest = (group: Group) => group.filter === '' && group.words !== 'none';

/** The rows that are filtered, put together: bars, and the same as figures. A bar opens the rows behind it. */
export function Chart({ list }: { list: ListView }) {
  const [asked, ask] = useAsked();
  const [search] = useSearchParams();
  const groups = useQuery(groupsQuery(list.name, asked));
  const [by = '', of = ''] = asked.chart.split(':');
  const bys = byOf(list);
  const byWords = bys.find(([name]) => name === by)?.[1] ?? by;
  const measure = list.columns.find((column) => column.name === of);
  const words = measure ? measureWords(measure) + (measure.kind === 'AMOUNT' ? ` ${currency()}` : '') : list.many;
  const sum = (group: Group) => (group.measured === null ? '–' : figureOf(measure, group.measured));
  const rowsOf = (group: Group) => ({
    ...asked,
    filter: [...asked.filter.filter((f) => f !== group.filter), group.filter],
  });
  return (
    <section className="chart" aria-label={`${words} by ${byWords}`}>
      <div className="row gap-10">
        <Choice
          label="what"
          className="cell-input"
          of={ofOf(list)}
          value={of}
          onChange={(to) => ask({ chart: `${by}:${to}` })}
        />
        <span className="muted">by</span>
        <Choice
          label="by"
          className="cell-input"
          of={bys}
          value={by}
          onChange={(to) => ask({ chart: `${to}:${of}` })}
        />
      </div>
      {!groups.data ? (
        <Waiting query={groups} />
      ) : (
        <>
          <Suspense fallback={<div className="muted">…</div>}>
            <Bars
              of={groups.data.filter((group) => !isRest(group))}
              measure={words}
              days={by.includes('.')}
              onOpen={(group) => ask({ filter: rowsOf(group).filter })}
            />
          </Suspense>
          {groups.data.filter(isRest).map((group) => (
            <div key={group.words} className="muted small">
              Not drawn: {group.words}, {sum(group)} {words}
            </div>
          ))}
          <details>
            <summary>As figures</summary>
            <Table
              caption="The chart as figures"
              of={groups.data}
              keyOf={(group) => `${group.filter} ${group.words}`}
              columns={[
                {
                  head: byWords,
                  cell: (group) =>
                    group.filter ? <Link to={`?${asking(search, rowsOf(group))}`}>{group.words}</Link> : group.words,
                },
                { head: list.many, num: true, cell: (group) => figure(String(group.count)) },
                measure && { head: words, num: true, cell: sum },
              ]}
            />
          </details>
        </>
      )}
    </section>
  );
}
