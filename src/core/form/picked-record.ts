import Big from 'big.js';
import type { RecordValue, Value } from '../expression/value';
import type { Table } from '../table/model';
import { kinds } from '../table/kinds/list';
import { recordKey, type Records } from './cells';

/** A record as a lookup offers it: title, the columns shown beside it, and those expressions read, numbers as text. */
export interface PickedRecord {
  readonly id: string;
  readonly title: string;
  readonly shown: readonly string[];
  readonly values: Readonly<Record<string, string | boolean | null>>;
}

export function asRecords(
  picked: Readonly<Record<string, readonly PickedRecord[]>>,
  tables: ReadonlyMap<string, Table>,
): Records {
  const lists = Object.entries(picked).flatMap(([table, list]) =>
    list.map((one) => [recordKey(table, one.id), asRecord(one, tables.get(table))] as const),
  );
  return new Map(lists);
}

export function asRecord(picked: PickedRecord, table: Table | undefined): RecordValue {
  const values = Object.entries(picked.values).map(([id, value]): [string, Value] => {
    const kind = table?.columns.find((column) => column.id === id)?.kind ?? 'text';
    const { t } = kinds[kind].type;
    if (typeof value !== 'string') return [id, value];
    return [id, t === 'number' ? new Big(value) : t === 'date-time' ? value.replace(' ', 'T') : value];
  });
  return { id: picked.id, title: picked.title, values: Object.fromEntries(values) };
}
