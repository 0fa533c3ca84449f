import { LookAhead } from '../ui/LookAhead';
import { found, type ListView } from './api';

/** The box of a list: what is typed is looked for as a number, a PO number, a name. */
export function LookUp({ list, onTake }: { list: ListView; onTake: (filter: string) => void }) {
  return (
    <span className="look-up">
      <LookAhead
        name={`list ${list.name}`}
        label={`Find in ${list.many}`}
        placeholder="number or name"
        className="cell-input"
        load={(q) => found(list.name, q)}
        shown=""
        keyOf={(hit) => hit.written}
        row={(hit) => <span>{hit.words}</span>}
        onTake={(hit) => onTake(hit.written)}
      />
    </span>
  );
}
