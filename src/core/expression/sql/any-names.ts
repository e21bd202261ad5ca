import { identifier } from './fragment';
import { atMoment, type SqlNames, type SqlTable } from './names';

const anyTable: SqlTable = { table: identifier('t'), column: () => ({ sql: identifier('c') }) };

/** Whatever is named is found: this only tells whether SQL can say the rest. */
export const anyNames: SqlNames = {
  name: () => ({ sql: identifier('c') }),
  rowId: identifier('id'),
  rows: () => ({ ...anyTable, parent: () => identifier('p') }),
  records: () => anyTable,
  ...atMoment('2026-01-01', '2026-01-01 00:00:00'),
};
