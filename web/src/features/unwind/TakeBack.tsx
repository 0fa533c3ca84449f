import { useState } from 'react';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import type { Selection } from '../../shared/selection';
import { useSession } from '../../shared/session';
import { UndoTogether, type Alike } from './Together';

/** Takes back what is selected in a list; with nothing selected, U is for the row that the keys stand on. */
export function TakeBack({
  of,
  numbers,
  at,
  atKind = of.kind,
  onDone,
}: {
  of: Alike;
  numbers: string[];
  /** The number of the row that the keys stand on. */
  at: string | undefined;
  /** Its kind, where it is another. */
  atKind?: string;
  onDone: () => void;
}) {
  const { may } = useSession();
  const navigate = useGo();
  const [asking, setAsking] = useState(false);
  const ready = may('PROPOSE') && numbers.length > 0;
  useKeys({
    u: () => {
      if (ready) setAsking(true);
      else if (at) navigate(`/unwind/${atKind}/${at}`);
    },
  });
  return (
    <>
      <button className="button" disabled={!ready} onClick={() => setAsking(true)}>
        Take back {numbers.length || ''} selected <kbd>U</kbd>
      </button>
      {asking && (
        <UndoTogether
          of={of}
          numbers={numbers}
          onClose={() => setAsking(false)}
          onDone={() => {
            setAsking(false);
            onDone();
          }}
        />
      )}
    </>
  );
}

/** The bar under a list whose rows are taken back together. */
export function TakeBackBar<Row extends { number: string }>({
  of,
  rows,
  selection,
  kindOf = () => of.kind,
}: {
  of: Alike;
  rows: Row[];
  selection: Selection<Row>;
  /** Where other documents stand in the list beside those that are taken back together. */
  kindOf?: (row: Row) => string;
}) {
  const at = rows[selection.at];
  return (
    <div className="bar">
      <TakeBack
        of={of}
        numbers={selection.chosen.map((row) => row.number)}
        at={at?.number}
        atKind={at && kindOf(at)}
        onDone={selection.none}
      />
      <span className="muted small">
        <kbd>X</kbd> selects
      </span>
    </div>
  );
}
