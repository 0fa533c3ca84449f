import { infiniteQueryOptions, queryOptions, useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { answer, client, type Schemas, upload } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';
import { queries, readAgain } from '../../shared/api/queries';
import { figure, Words } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import type { Row } from '../../shared/list/api';
import { present } from '../../shared/present';
import { useSession } from '../../shared/session';
import { Doc, Mark, More, ProblemNote, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { Choice, Field } from '../../shared/ui/fields';

/** What became of a file; asked again every other second while it is still running. */
const intakeQuery = (id: number) =>
  queryOptions({
    queryKey: keyOf('import', id),
    queryFn: () => answer(client.GET('/api/imports/{id}', { params: { path: { id } } })),
    refetchInterval: (query) => (query.state.data?.progress === 'RUNNING' ? 2_000 : false),
  });

const resultsQuery = (id: number) =>
  infiniteQueryOptions({
    queryKey: keyOf('import', id, 'results'),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/imports/{id}/results', { params: { path: { id }, query: { after: pageParam } } })),
    ...pages,
  });

const badCellsQuery = (id: number) =>
  infiniteQueryOptions({
    queryKey: keyOf('import', id, 'bad-cells'),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/imports/{id}/bad-cells', { params: { path: { id }, query: { after: pageParam } } })),
    ...pages,
  });

/** Takes in a file of orders and says what became of each. A long file can be left and found again by its address. */
export function ImportPage() {
  const { may } = useSession();
  const [search, setSearch] = useSearchParams();
  const id = Number(search.get('file')) || 0;
  const report = useQuery({ ...intakeQuery(id), enabled: id > 0 });
  const done = report.data?.progress === 'DONE';
  useEffect(() => {
    if (done) void readAgain();
  }, [done]);
  const [file, setFile] = useState<File | null>(null);
  const [decimalMark, setDecimals] = useState('point');
  const [delimiter, setSeparator] = useState('comma');
  const [whole, setWhole] = useState(true);
  const past = search.get('of') === 'past-invoices';
  const takePast = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/imports/past-invoices', {
          params: { query: { decimalMark, delimiter } },
          ...upload(present(file, 'the file')),
        }),
      ),
  });
  const take = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/imports', {
          params: { query: { decimalMark, delimiter, whole } },
          ...upload(present(file, 'the file')),
        }),
      ),
    onSuccess: (taken) => {
      queries.setQueryData(intakeQuery(taken.id).queryKey, taken);
      setSearch({ file: String(taken.id) });
    },
  });
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>{past ? 'Import past invoices' : 'Import orders'}</h1>
          <Link to={past ? '/orders/import' : '/orders/import?of=past-invoices'}>
            {past ? 'Import orders' : 'Import past invoices'}
          </Link>
          <Link to="/orders/imports">All imports</Link>
        </div>
        {past && (
          <p className="muted up-to-80ch">
            A CSV file in UTF-8, one invoice a row, with the columns{' '}
            <span className="mono">customer, number, date, po, net</span>, all mandatory. Past invoices post nothing;
            their PO numbers are used to find duplicates. An invoice is imported once; if one row is wrong, none is
            imported.
          </p>
        )}
        {!past && (
          <p className="muted up-to-80ch">
            A CSV file in UTF-8, one order line a row, with the columns{' '}
            <span className="mono">
              reference, customer, po, kind, ordered_on, requested_on, remark, item, quantity, price, discount, replaces
            </span>
            . Rows of the same customer and reference make one order. Mandatory: reference, customer, item, quantity. A
            reference is imported once.
          </p>
        )}
        <div className="fields columns-2fr-1fr-1fr-1-4fr">
          <Field of="file" label="File">
            <input
              id="file"
              type="file"
              accept=".csv,text/csv,text/plain"
              onChange={(event) => setFile(event.target.files?.[0] ?? null)}
            />
          </Field>
          <Field of="decimalMark" label="Decimal mark">
            <Choice id="decimalMark" value={decimalMark} onChange={setDecimals}>
              <option value="point">point: 12.5</option>
              <option value="comma">comma: 12,5</option>
            </Choice>
          </Field>
          <Field of="delimiter" label="Delimiter">
            <Choice id="delimiter" value={delimiter} onChange={setSeparator}>
              <option value="comma">comma</option>
              <option value="semicolon">semicolon</option>
              <option value="tab">tab</option>
            </Choice>
          </Field>
          {!past && (
            <Field of="whole" label="If a row is wrong">
              <Choice id="whole" value={String(whole)} onChange={(to) => setWhole(to === 'true')}>
                <option value="true">import nothing</option>
                <option value="false">import the correct orders</option>
              </Choice>
            </Field>
          )}
        </div>
        <ProblemNote problem={past ? takePast.error : take.error} />
        {past && takePast.data && <PastTaken report={takePast.data} />}
        {take.isPending && (
          <p className="muted" role="status">
            Importing. A long file takes a while.
          </p>
        )}
        {!past && report.data && !take.isPending && <Report report={report.data} />}
        {!past && report.error && <ProblemNote problem={report.error} />}
      </div>
      <div className="bar">
        <button
          className="button first"
          disabled={!file || take.isPending || takePast.isPending || !may('ENTER')}
          onClick={() => (past ? takePast.mutate() : take.mutate())}
        >
          Import
        </button>
        <span className="muted small">
          {past
            ? 'Rules define where PO numbers are searched.'
            : 'Every order gets the same checks as one that is typed.'}
        </span>
      </div>
    </div>
  );
}

/** What became of a file of old invoices. */
function PastTaken({ report }: { report: Schemas['PastReport'] }) {
  return (
    <>
      <p className="situation">{report.sentence}</p>
      {report.bad.length > 0 && <BadCells of={report.bad} />}
    </>
  );
}

const OUTCOME: Record<string, string> = {
  TAKEN: 'imported',
  TAKEN_BEFORE: 'imported before',
  REFUSED: 'refused',
  NOT_TAKEN: 'not imported',
};

function Report({ report }: { report: Schemas['Report'] }) {
  return (
    <>
      <p className="situation" role="status">
        <span className="mono">{report.fileName}</span>: {report.sentence}
      </p>
      {report.progress === 'RUNNING' && (
        <p>
          <progress
            value={report.done}
            max={report.found}
            aria-label="Orders imported so far"
            style={{ width: 420, accentColor: 'var(--sea)' }}
          />
          <span className="muted"> You can leave this page; the import continues and is listed under all imports.</span>
        </p>
      )}
      {report.progress === 'DONE' && (
        <>
          <Wrong id={report.id} />
          <Results id={report.id} />
        </>
      )}
    </>
  );
}

/** Cells of a file that can't be taken as they are, page by page. */
function Wrong({ id }: { id: number }) {
  const query = useInfiniteQuery(badCellsQuery(id));
  const cells = query.data?.pages.flatMap((page) => page.rows) ?? [];
  if (cells.length === 0) return query.data ? null : <Waiting query={query} />;
  return (
    <>
      <BadCells of={cells} />
      <More query={query} />
    </>
  );
}

/** What became of the orders of a file, page by page. */
function Results({ id }: { id: number }) {
  const query = useInfiniteQuery(resultsQuery(id));
  const results = query.data?.pages.flatMap((page) => page.rows) ?? [];
  if (results.length === 0) return null;
  return (
    <>
      <Table
        caption="Orders of the file"
        of={results}
        keyOf={(result) => result.customer + result.reference}
        className="inset"
        columns={[
          { head: 'Reference', className: 'mono', cell: (result) => result.reference },
          { head: 'Customer', className: 'mono', cell: (result) => result.customer },
          {
            head: 'Rows',
            cell: (result) =>
              result.rows.length > 3 ? `${result.rows[0]} and ${result.rows.length - 1} more` : result.rows.join(', '),
          },
          {
            head: 'Result',
            cell: (result) => (
              <>
                {OUTCOME[result.outcome]} <span className="muted">{result.sentence}</span>
              </>
            ),
          },
          { head: 'Order', cell: (result) => result.order && <Doc kind="ORDER" number={result.order} /> },
          {
            head: 'State',
            cell: (result) => (
              <>
                {result.state === 'HELD' && <Mark of="stop" />}
                {result.state && Words(result.state)}
              </>
            ),
          },
        ]}
      />
      <More query={query} />
    </>
  );
}

/** Cells that can't be taken as they are. */
function BadCells({ of }: { of: Schemas['BadCell'][] }) {
  return (
    <Table
      caption="Cells that could not be read"
      of={of}
      keyOf={(_, index) => index}
      className="inset below-20"
      columns={[
        { head: 'Row', num: true, cell: (cell) => figure(String(cell.row)) },
        { head: 'Column', cell: (cell) => cell.column },
        { head: 'Value', className: 'mono', cell: (cell) => cell.value },
        { head: 'Expected', cell: (cell) => cell.expected },
      ]}
    />
  );
}

/** The page of a file. */
const placeOf = (row: Row) => `/orders/import?file=${row.key}`;

/** All files of orders that were imported, or are being. */
export function ImportListPage() {
  return (
    <DataList
      name="imports"
      place={placeOf}
      cell={(column, row) =>
        column === 'file' ? <Link to={placeOf(row)}>{textIn(row, column) || 'unnamed'}</Link> : undefined
      }
      bar={
        <Link className="button first" to="/orders/import">
          Import a file
        </Link>
      }
    />
  );
}
