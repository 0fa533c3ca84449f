import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useRef, useState, type ReactNode } from 'react';
import { Link, Navigate, useLocation } from 'react-router';
import { figure } from '../format';
import { useCursor, useKeys } from '../keys';
import { useLatest } from '../latest';
import { useGo } from '../navigation';
import { SelectAll, useSelectedBy } from '../selection';
import { Empty, More, placeOf, Waiting } from '../ui';
import { AllThatMatch, type Pages } from './AllThatMatch';
import { Chart, firstChart } from './Chart';
import { ColumnDialog } from './ColumnDialog';
import { DayOfList, givesWay } from './DayOfList';
import { ExportDialog } from './ExportDialog';
import { FilterDialog } from './FilterDialog';
import { Heading } from './Heading';
import { Line } from './Line';
import { LookUp } from './LookUp';
import { Ties } from './Ties';
import { Total } from './Total';
import { SaveDialog, ViewsDialog, whose } from './Views';
import { ALL, addressOf, useAsked } from './address';
import {
  listsQuery,
  rowsQuery,
  viewsQuery,
  wordsOf,
  type Asked,
  type Column,
  type FilterView,
  type ListView,
  type Row,
  type SavedView,
} from './api';
import { Room, useDrawn } from './drawn';
import { useLookingOn } from './lookingOn';
import { useWidths } from './widths';

/** What a list is made of beside what the server declares. */
type Parts = {
  /** as it is declared */
  name: string;
  /** above the heading */
  top?: ReactNode;
  tabs?: ReactNode;
  /** what can be done with the selected rows, or with the one that the place is at; without it none are selected */
  selected?: (chosen: Row[], on: { at: Row | undefined; none: () => void }) => ReactNode;
  /** below the rows, where none are selected */
  bar?: ReactNode;
  /** which rows can be */
  selectable?: (row: Row) => boolean;
  /** the page of a row, where that is not the one of its document */
  place?: (row: Row) => string;
  /** the view that is seen first by those who have said nothing else */
  first?: string;
  /** the page is about that view: nobody's own comes before it */
  isAbout?: boolean;
  /** how a cell is shown where it is more than its value */
  cell?: (column: string, row: Row) => ReactNode;
  className?: (row: Row) => string;
  /** keys for the row that the place is at */
  keys?: Record<string, (row: Row) => void>;
};

/** Where the document of a row is shown. */
function placeOfRow(columns: Column[], row: Row): string | undefined {
  return row.opens && columns.some((one) => one.opens && one.kind === 'TEXT')
    ? placeOf(row.kind, row.opens)
    : undefined;
}

/** The conditions as sentences, each of which can be taken away. */
function Filters({
  of,
  columns,
  onDrop,
  onAdd,
}: {
  of: FilterView[];
  columns: Column[];
  onDrop: (written: string) => void;
  onAdd: () => void;
}) {
  return (
    <span className="conditions">
      {of.map((filter) => (
        <span key={filter.written} className="condition">
          <span className="muted">{wordsOf(columns, filter.field)}</span> {filter.words}
          <button
            type="button"
            aria-label={`Without: ${wordsOf(columns, filter.field)} ${filter.words}`}
            onClick={() => onDrop(filter.written)}
          >
            ×
          </button>
        </span>
      ))}
      <button type="button" className="plain" onClick={onAdd}>
        add a filter <kbd>F</kbd>
      </button>
    </span>
  );
}

export { codeIn, textIn } from './cells';

/** A list as the server declares it: filtered, sorted and with the columns that its address asks for. */
export function DataList({ name, first: shipped, isAbout = false, ...parts }: Parts) {
  const lists = useQuery(listsQuery);
  const [asked] = useAsked();
  const { search } = useLocation();
  // an address that asks for nothing shows what somebody wants to see first; no other needs to know but the name of its view
  const views = useQuery({ ...viewsQuery(name), enabled: search === '' || asked.view !== '' });
  const first =
    search === ''
      ? ((isAbout ? undefined : views.data?.find((view) => view.isStandard)) ??
        views.data?.find((view) => view.key === shipped))
      : undefined;
  const isKnown = search !== '' || views.isSuccess || views.isError;
  // what is shown stays until the answer is there: whoever asks with the keys does not lose their place
  const rows = useInfiniteQuery({
    ...rowsQuery(name, asked),
    enabled: isKnown && !first,
    placeholderData: keepPreviousData,
  });
  const looking = useLookingOn(asked, rows);
  if (first) return <Navigate to={addressOf(first)} replace />;
  if (!lists.data) return <Waiting query={lists} />;
  const declared = lists.data.find((one) => one.name === name);
  if (!declared) return <Empty>This list is not for you.</Empty>;
  if (!rows.data)
    return (
      <>
        <Waiting query={rows} />
        {rows.error && (
          <div className="inset-22">
            <Link to={ALL}>Show all {declared.many}</Link>
          </div>
        )}
      </>
    );
  const [page] = rows.data.pages;
  const columns = (page?.columns ?? []).flatMap((column) => declared.columns.filter((one) => one.name === column));
  return (
    <Shown
      {...parts}
      list={declared}
      view={views.data?.find((view) => view.key === asked.view)}
      columns={columns}
      own={page?.sort ?? ''}
      filters={page?.filters ?? []}
      rows={rows.data.pages.flatMap((one) => one.rows)}
      looking={looking}
      more={rows}
      waits={rows.isPlaceholderData}
    />
  );
}

function Shown({
  list,
  view,
  own,
  columns,
  filters,
  rows,
  looking: { looked, goesOn, lookOn },
  more,
  waits,
  top,
  tabs,
  selected,
  selectable,
  bar,
  place,
  cell,
  className,
  keys = {},
}: Omit<Parts, 'name' | 'first' | 'isAbout'> & {
  list: ListView;
  /** the view that is open */
  view: SavedView | undefined;
  own: string;
  columns: Column[];
  filters: FilterView[];
  rows: Row[];
  looking: ReturnType<typeof useLookingOn>;
  more: Pages;
  /** these are still the rows of what was asked before */
  waits: boolean;
}) {
  const [asked, ask] = useAsked();
  const [dialog, setDialog] = useState<'filter' | 'columns' | 'views' | 'save' | 'file' | null>(null);
  const widths = useWidths(list.name);
  const go = useGo();
  const open = (row: Row) => {
    const to = place?.(row) ?? placeOfRow(list.columns, row);
    if (to) go(to);
  };
  const selection = useSelectedBy(rows, (row) => row.key, selectable);
  const [at, setAt] = useCursor(rows, open, selected ? { ...keys, x: selection.toggle } : keys);
  const change = (changed: Partial<Asked>) => {
    setAt(0);
    ask(changed);
  };
  const { body, drawn, before, behind, measure } = useDrawn(rows, at);
  const onOpen = useLatest(open);
  const onToggle = useLatest(selection.toggle);
  const below = useRef<HTMLDivElement>(null);
  useKeys({
    f: () => setDialog('filter'),
    v: () => setDialog('views'),
    e: () => setDialog('file'),
    'shift+x': selected && selection.all,
    // what is first below a list is what it is for
    'ctrl+enter': selected && (() => below.current?.querySelector<HTMLButtonElement>('.button')?.click()),
  });
  return (
    <div className="page">
      <div className="page-scroll">
        {top}
        <div className="page-head">
          <span>
            <h1>{view?.name ?? list.title}</h1>{' '}
            <button type="button" className="plain" onClick={() => setDialog('views')}>
              {view ? `${whose(view)} of ${list.many}` : 'views'} <kbd>V</kbd>
            </button>
          </span>
          <DayOfList list={list} />
        </div>
        {tabs}
        <div className="data-head">
          <LookUp
            list={list}
            onTake={(filter) => change({ filter: [...asked.filter.filter((one) => one !== filter), filter] })}
          />
          <Filters
            of={filters}
            columns={list.columns}
            onDrop={(written) => change({ filter: asked.filter.filter((one) => one !== written) })}
            onAdd={() => setDialog('filter')}
          />
          <span className="list-ways">
            <button
              type="button"
              className="plain"
              aria-pressed={asked.chart !== ''}
              onClick={() => ask({ chart: asked.chart ? '' : firstChart(list) })}
            >
              {asked.chart ? 'Without chart' : 'Chart'}
            </button>
            <button type="button" className="plain" onClick={() => setDialog('save')}>
              Keep view
            </button>
            <button type="button" className="plain" onClick={() => setDialog('columns')}>
              Columns
            </button>
            <button type="button" className="plain" onClick={() => setDialog('file')}>
              Export <kbd>E</kbd>
            </button>
          </span>
        </div>
        {list.isRegister && <Ties list={list} asked={asked} />}
        {asked.chart && <Chart list={list} />}
        <table className={`rows data${waits ? ' waits' : ''}`} aria-busy={waits}>
          <caption className="unseen">{list.title}</caption>
          <thead>
            <tr>
              {selected && <SelectAll selection={selection} />}
              {columns.map((column) => (
                <Heading
                  key={column.name}
                  column={column}
                  asked={asked}
                  own={own}
                  widths={widths}
                  onSort={(sort) => change({ sort })}
                />
              ))}
            </tr>
          </thead>
          <tbody ref={body}>
            <Room of={before} />
            {drawn.map(({ row, index }) => (
              <Line
                key={row.key}
                row={row}
                index={index}
                isAt={index === at}
                box={selected && (selection.can(row) ? selection.has(row) : 'NONE')}
                columns={columns}
                widths={widths.all}
                place={place}
                cell={cell}
                className={className}
                measure={measure}
                onOpen={onOpen}
                onToggle={onToggle}
              />
            ))}
            <Room of={behind} />
          </tbody>
          {rows.length > 0 && (
            <Total
              list={list}
              asked={asked}
              columns={columns}
              selects={selected !== undefined}
              chosen={selection.chosen}
            />
          )}
        </table>
        {rows.length === 0 &&
          looked === 0 &&
          (filters.length > 0 ? (
            <Empty>
              No {list.many} match.{' '}
              <Link to={ALL} replace>
                Show all
              </Link>
            </Empty>
          ) : (
            <Empty>There are no {list.many}.</Empty>
          ))}
        {looked > 0 ? (
          <p className="inset-12" role="status">
            {rows.length === 0 ? `No ${list.many} match` : 'These match'} among the {figure(String(looked))} that were
            looked at in this sequence; there may be more.{' '}
            {goesOn ? (
              'Looking on…'
            ) : (
              <button type="button" className="button" disabled={more.isFetchingNextPage} onClick={lookOn}>
                {more.isFetchingNextPage ? 'Looking…' : 'Look on'}
              </button>
            )}
          </p>
        ) : (
          <More query={more} />
        )}
        {selected && selection.areAll && more.hasNextPage && (
          <AllThatMatch many={list.many} shown={rows.length} more={more} onAll={selection.just} />
        )}
      </div>
      {selected && <div ref={below}>{selected(selection.chosen, { at: rows[at], none: selection.none })}</div>}
      {bar && <div className="bar">{bar}</div>}
      {dialog === 'filter' && (
        <FilterDialog
          list={list.name}
          columns={list.columns}
          onGiven={(written) => {
            setDialog(null);
            change({ filter: [...asked.filter.filter((one) => !givesWay(list, one, written)), written] });
          }}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'file' && <ExportDialog list={list} asked={asked} onClose={() => setDialog(null)} />}
      {dialog === 'views' && <ViewsDialog list={list.name} onClose={() => setDialog(null)} />}
      {dialog === 'save' && (
        <SaveDialog
          list={list.name}
          asked={asked}
          now={view}
          onKept={(kept) => {
            setDialog(null);
            ask({ view: kept.key });
          }}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'columns' && (
        <ColumnDialog
          columns={list.columns}
          shown={columns.map((column) => column.name)}
          onGiven={(names) => {
            setDialog(null);
            if (names.length === 0) widths.none();
            ask({ columns: names });
          }}
          onClose={() => setDialog(null)}
        />
      )}
    </div>
  );
}
