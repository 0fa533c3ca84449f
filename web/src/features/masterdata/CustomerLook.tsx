import type { Schemas } from '../../shared/api/http';
import { LookAhead } from '../../shared/ui/LookAhead';
import { findCustomers } from './api';

/** Chooses a customer by name, town or code while one types. */
export function CustomerLook({
  id,
  label,
  shown,
  autoFocus,
  onTake,
}: {
  id?: string;
  label: string;
  shown: string;
  autoFocus?: boolean;
  onTake: (customer: Schemas['CustomerView']) => void;
}) {
  return (
    <LookAhead
      name="customers"
      id={id}
      label={label}
      autoFocus={autoFocus}
      placeholder="name, town or code"
      load={findCustomers}
      shown={shown}
      keyOf={(hit) => hit.code}
      row={(hit) => (
        <>
          <span className="mono">{hit.code}</span>
          <span>{hit.name}</span>
          <span className="muted">{hit.town}</span>
          {hit.blocked && <span className="error">blocked</span>}
        </>
      )}
      onTake={onTake}
    />
  );
}
