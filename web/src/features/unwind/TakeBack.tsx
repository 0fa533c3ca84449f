import { useState } from 'react';
import { useKeys } from '../../shared/keys';
import type { Row } from '../../shared/list/api';
import { useGo } from '../../shared/navigation';
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
export function TakeBackBar({
  of,
  chosen,
  at,
  none,
}: {
  of: Alike;
  chosen: Row[];
  /** the row that the keys stand on */
  at: Row | undefined;
  none: () => void;
}) {
  return (
    <div className="bar">
      <TakeBack of={of} numbers={chosen.map((row) => row.opens)} at={at?.opens} atKind={at?.kind} onDone={none} />
      <span className="muted small">
        <kbd>X</kbd> selects
      </span>
    </div>
  );
}
