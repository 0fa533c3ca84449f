import { memo, useEffect, useState } from 'react';
import type { Schemas } from '../../shared/api/http';
import { figure, plain, price, trim, Words } from '../../shared/format';
import { DayInput } from '../../shared/ui/DayInput';
import { FigureInput } from '../../shared/ui/FigureInput';
import { LookAhead } from '../../shared/ui/LookAhead';
import { TextLine } from '../../shared/ui/fields';
import { findItems } from '../masterdata';
import { type TypedLine } from './api';

type Hit = Schemas['ItemView'];

type Props = {
  line: TypedLine;
  position: number;
  site: string;
  /** what the dry run makes of it */
  result: Schemas['LineView'] | undefined;
  /** its quantity is missing */
  lacking: boolean;
  shortage: Schemas['ShortageView'] | undefined;
  onChange: (change: Partial<TypedLine>) => void;
  /** lines to stand in its place */
  onMore: (lines: TypedLine[]) => void;
  onRemove: () => void;
  blank: () => TypedLine;
};

/** One line of an order while it is typed; of three hundred, only the one that changed is drawn again. */
export const EntryLine = memo(
  Line,
  (before, now) =>
    before.line === now.line &&
    before.position === now.position &&
    before.site === now.site &&
    before.result === now.result &&
    before.lacking === now.lacking &&
    before.shortage === now.shortage,
);

/** An item with its figures, a text, or a subtotal. */
function Line({ line, position, site, result, lacking, shortage, onChange, onMore, onRemove, blank }: Props) {
  const [focusQuantity, setFocusQuantity] = useState(false);
  useEffect(() => {
    if (focusQuantity) document.getElementById(`quantity-${position}`)?.focus();
  }, [focusQuantity, position]);
  const next = () => document.getElementById(`item-${position + 1}`)?.focus();
  const number = (field: 'quantity' | 'price' | 'discount', label: string, placeholder: string) => (
    <FigureInput
      id={`${field}-${position}`}
      label={`${label} of line ${position}`}
      placeholder={placeholder}
      value={line[field]}
      onChange={(text) => onChange({ [field]: text })}
      onEnter={next}
    />
  );
  const off = (
    <td>
      {(line.item || line.kind) && (
        <button className="plain" aria-label={`Take line ${position} off`} title="Remove the line" onClick={onRemove}>
          ×
        </button>
      )}
    </td>
  );
  const no = <td className="num muted">{line.no ?? position}</td>;
  if (line.kind) {
    return (
      <tr>
        {no}
        <td colSpan={6}>
          <TextLine
            id={`item-${position}`}
            className={`cell-input${line.kind === 'SUBTOTAL' ? ' strong' : ''}`}
            aria-label={`${Words(line.kind)} of line ${position}`}
            placeholder={line.kind === 'TEXT' ? 'text for the customer' : 'Subtotal'}
            maxLength={500}
            value={line.description}
            onKeyDown={(event) => event.key === 'Enter' && !event.ctrlKey && next()}
            onChange={(to) => onChange({ description: to })}
          />
        </td>
        <td className="num strong">{line.kind === 'SUBTOTAL' && result ? figure(result.net) : ''}</td>
        {off}
      </tr>
    );
  }
  const taken = (hit: Hit): TypedLine => ({
    ...blank(),
    item: hit.code,
    description: hit.name,
    free: hit.kind === 'STOCK' ? hit.free : null,
    quantity: line.quantity || '1',
  });
  return (
    <tr>
      {no}
      <td>
        <LookAhead
          id={`item-${position}`}
          name={`items ${site}`}
          label={`Item of line ${position}`}
          className="cell-input"
          placeholder={position === 1 ? 'name or code' : ''}
          load={findItems(site)}
          shown={line.description}
          keyOf={(hit) => hit.code}
          row={(hit) => (
            <>
              <span className="mono nowrap">{hit.code}</span>
              <span>
                {hit.name} {hit.regulated && <span className="muted">{hit.regulated}</span>}
              </span>
              <span className="nowrap muted">
                {hit.kind === 'STOCK'
                  ? `${trim(hit.free)} free${hit.elsewhere.map((there) => `, ${trim(there.free)} in ${there.site}`).join('')}`
                  : Words(hit.kind).toLowerCase()}
              </span>
              <span className="nowrap">{price(hit.price)}</span>
            </>
          )}
          onTake={(hit) => {
            onChange({ ...taken(hit), no: line.no });
            setFocusQuantity(true);
          }}
          onTakeMany={(hits) => onMore(hits.map(taken))}
        />
        {shortage && <ShortOf line={line} shortage={shortage} onChange={onChange} onMore={onMore} blank={blank} />}
        {line.site && <Said onUndo={() => onChange({ site: '' })}>from {line.site}</Said>}
        {line.shortage === 'DROP' && (
          <Said onUndo={() => onChange({ shortage: 'WAIT' })}>shortage is cancelled at clearing</Said>
        )}
      </td>
      <td className={lacking ? 'lacking' : ''}>{line.item && number('quantity', 'Quantity', '')}</td>
      <td className="num muted">{line.free == null ? '' : trim(line.free)}</td>
      <td>
        {line.item && (
          <DayInput
            className={`cell-input${line.requestedOn ? '' : ' muted'}`}
            label={`Requested date of line ${position}`}
            value={line.requestedOn === '' ? (result?.requestedOn ?? '') : line.requestedOn}
            optional
            onChange={(day) => onChange({ requestedOn: day })}
          />
        )}
      </td>
      <td>{line.item && number('price', 'Price', result ? price(result.price) : '')}</td>
      <td>{line.item && number('discount', 'Discount', '–')}</td>
      <td className="num">{line.item && result ? figure(result.net) : ''}</td>
      {off}
    </tr>
  );
}

function Said({ children, onUndo }: { children: React.ReactNode; onUndo: () => void }) {
  return (
    <div className="small muted">
      {children}{' '}
      <button className="plain small" onClick={onUndo}>
        undo
      </button>
    </div>
  );
}

/** What can become of a quantity that is not in the store: it waits unless one of these is chosen. */
function ShortOf({
  line,
  shortage,
  onChange,
  onMore,
  blank,
}: {
  line: TypedLine;
  shortage: Schemas['ShortageView'];
  onChange: (change: Partial<TypedLine>) => void;
  onMore: (lines: TypedLine[]) => void;
  blank: () => TypedLine;
}) {
  const covered = plain(shortage.covered);
  const waiting = plain(shortage.waiting);
  const none = covered === '0';
  const from = (site: string) =>
    none
      ? onChange({ site })
      : onMore([
          { ...line, quantity: covered },
          { ...blank(), ...line, no: undefined, quantity: waiting, site },
        ]);
  return (
    <div className="small" style={{ display: 'flex', flexWrap: 'wrap', gap: '0 10px' }}>
      <span className="muted">{trim(shortage.waiting)} short; waits, or</span>
      {shortage.elsewhere.map((there) => (
        <button key={there.site} className="plain small nowrap" onClick={() => from(there.site)}>
          {none ? 'all' : 'the rest'} from {there.site} ({trim(there.free)} free)
        </button>
      ))}
      <button className="plain small nowrap" onClick={() => onChange({ shortage: 'DROP' })}>
        cancel the rest
      </button>
      {!none && (
        <button className="plain small nowrap" onClick={() => onChange({ quantity: covered })}>
          take {covered}
        </button>
      )}
    </div>
  );
}
