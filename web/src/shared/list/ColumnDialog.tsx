import { useState } from 'react';
import { Dialog } from '../ui/Dialog';
import { DialogForm } from '../ui/DialogForm';
import type { Column } from './api';

/** Chooses which columns a list has, and in what sequence. */
export function ColumnDialog({
  columns,
  shown,
  onGiven,
  onClose,
}: {
  columns: Column[];
  shown: string[];
  onGiven: (names: string[]) => void;
  onClose: () => void;
}) {
  const [chosen, setChosen] = useState(shown);
  const rest = columns.map((column) => column.name).filter((name) => !chosen.includes(name));
  const move = (at: number, by: number) => {
    const changed = [...chosen];
    const [name] = changed.splice(at, 1);
    if (name !== undefined) changed.splice(at + by, 0, name);
    setChosen(changed);
  };
  const labelOf = (name: string) => columns.find((column) => column.name === name)?.label ?? name;
  return (
    <Dialog onClose={onClose} title="Columns">
      <DialogForm
        action="Show these"
        ready={chosen.length > 0}
        busy={false}
        problem={null}
        also={
          <button type="button" className="button" onClick={() => onGiven([])}>
            As they were
          </button>
        }
        onGiven={() => onGiven(chosen)}
        onClose={onClose}
      >
        <ol className="column-order">
          {[...chosen, ...rest].map((name, at) => (
            // one list for both, so that a box keeps the focus while it moves
            <li key={name}>
              <label>
                <input
                  type="checkbox"
                  checked={at < chosen.length}
                  onChange={() =>
                    setChosen(at < chosen.length ? chosen.filter((other) => other !== name) : [...chosen, name])
                  }
                />{' '}
                {labelOf(name)}
              </label>
              {at < chosen.length && (
                <>
                  <button
                    type="button"
                    className="plain"
                    disabled={at === 0}
                    aria-label={`${labelOf(name)} earlier`}
                    onClick={() => move(at, -1)}
                  >
                    ↑
                  </button>
                  <button
                    type="button"
                    className="plain"
                    disabled={at === chosen.length - 1}
                    aria-label={`${labelOf(name)} later`}
                    onClick={() => move(at, 1)}
                  >
                    ↓
                  </button>
                </>
              )}
            </li>
          ))}
        </ol>
      </DialogForm>
    </Dialog>
  );
}
