import type { FoundRecord, FoundSubmission, FoundTable } from '../../contract/one-person';

/** What was chosen, also of what was found by other words before. */
export interface AllChosen {
  /** By the id of the record. */
  readonly records: ReadonlyMap<string, { readonly table: FoundTable; readonly record: FoundRecord }>;
  readonly submissions: ReadonlyMap<string, FoundSubmission>;
}

export const noneChosen: AllChosen = { records: new Map(), submissions: new Map() };
export const sizeOf = ({ records, submissions }: AllChosen): number => records.size + submissions.size;

export function withRecord(chosen: AllChosen, table: FoundTable, record: FoundRecord): AllChosen {
  const records = new Map(chosen.records);
  if (!records.delete(record.id)) records.set(record.id, { table, record });
  return { ...chosen, records };
}

export function withSubmission(chosen: AllChosen, one: FoundSubmission): AllChosen {
  const submissions = new Map(chosen.submissions);
  if (!submissions.delete(one.id)) submissions.set(one.id, one);
  return { ...chosen, submissions };
}

/** The tables of what is chosen. */
export const tablesOf = ({ records }: AllChosen): FoundTable[] => [
  ...new Map([...records.values()].map(({ table }) => [table.id, table])).values(),
];

/** By table, the columns that are emptied unless others are picked: those that are marked as data about people. */
export const emptiedAtFirst = (chosen: AllChosen): Readonly<Record<string, readonly string[]>> =>
  Object.fromEntries(
    tablesOf(chosen).map(({ id, columns }) => [
      id,
      columns.filter(({ isPersonal }) => isPersonal).map((column) => column.id),
    ]),
  );
