import { DataList, textIn } from '../../shared/list/DataList';
import { Mark } from '../../shared/ui';

/** All customers by name, with where they stand. */
export function CustomerListPage() {
  return (
    <DataList
      name="customers"
      cell={(column, row) => {
        if (column === 'creditLimit' && textIn(row, 'creditLimit') === '') return 'none';
        if (column === 'blocked')
          return textIn(row, 'blocked') === 'YES' ? (
            <span className="nowrap">
              <Mark of="stop" />
              blocked
            </span>
          ) : (
            ''
          );
        return undefined;
      }}
    />
  );
}
