/** The rows of an entry table with one empty row at the end to go on typing in. */
export const withEmptyLast = <Row>(rows: Row[], isWritten: (row: Row) => boolean, empty: Row): Row[] => {
  const last = rows.at(-1);
  return last === undefined || isWritten(last) ? [...rows, empty] : rows;
};
