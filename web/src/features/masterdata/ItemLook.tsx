import type { ReactNode } from 'react';
import type { Schemas } from '../../shared/api/http';
import { price } from '../../shared/format';
import { LookAhead } from '../../shared/ui/LookAhead';
import { findItems } from './api';

type Hit = Schemas['ItemView'];

const itsPrice = (hit: Hit): ReactNode => price(hit.price);

/** Chooses an item by words of its name or its code; beside each, what the place is about: its price where nothing else is said. */
export function ItemLook({
  label,
  shown,
  placeholder,
  autoFocus,
  beside = itsPrice,
  onTake,
}: {
  label: string;
  shown: string;
  placeholder?: string;
  autoFocus?: boolean;
  beside?: (hit: Hit) => ReactNode;
  onTake: (item: Hit) => void;
}) {
  return (
    <LookAhead
      name="items"
      label={label}
      className="cell-input"
      placeholder={placeholder}
      autoFocus={autoFocus}
      load={findItems('')}
      shown={shown}
      keyOf={(hit) => hit.code}
      row={(hit) => (
        <>
          <span className="mono nowrap">{hit.code}</span>
          <span>{hit.name}</span>
          <span className="nowrap muted">{beside(hit)}</span>
        </>
      )}
      onTake={onTake}
    />
  );
}
