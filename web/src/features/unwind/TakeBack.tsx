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
  onDone,
}: {
  of: Alike;
  numbers: string[];
  /** The number of the row that the keys stand on. */
  at: string | undefined;
  onDone: () => void;
}) {
  const { may } = useSession();
  const navigate = useGo();
  const [asking, setAsking] = useState(false);
  const ready = may('PROPOSE') && numbers.length > 0;
  useKeys({
    u: () => {
      if (ready) setAsking(true);
      else if (at) navigate(`/unwind/${of.kind}/${at}`);
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
}: {
  of: Alike;
  rows: Row[];
  selection: Selection<Row>;
}) {
  return (
    <div className="bar">
      <TakeBack
        of={of}
        numbers={selection.chosen.map((row) => row.number)}
        at={rows[selection.at]?.number}
        onDone={selection.none}
      />
      <span className="muted small">
        <kbd>X</kbd> selects
      </span>
    </div>
  );
}
