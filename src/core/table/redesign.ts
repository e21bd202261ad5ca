import type { Reading } from '../import/detection';
import { sameSet, type TableChange } from './change';
import { isCalculated, type Column, type Match, type Table } from './model';

/** A table as its owner wants it, and how values there are become what they are wanted to be. */
export interface Redesign {
  readonly table: Table;
  /** By column id: how its texts are read. */
  readonly readings: Readonly<Record<string, Reading>>;
  /** By column id: what stands instead of a text that does not fit; the empty text is a blank. */
  readonly mends: Readonly<Record<string, Readonly<Record<string, string>>>>;
}

/**
 * What must be done so that the table there is becomes the table wanted, in the order in which it can be done: what is let go comes first,
 * what is demanded of the values last. Columns are told apart by id.
 */
export function planRedesign(before: Table | null, after: Table): TableChange[] {
  if (before === null) return [{ t: 'make-table', table: after }];
  const known = new Map(before.columns.map((column) => [column.id, column]));
  const hidden = new Map(before.retired.map((column) => [column.id, column]));
  const stays = new Set(after.columns.map(({ id }) => id));
  const kept = new Set([...stays, ...after.retired.map(({ id }) => id)]);
  const restored = after.columns.filter(({ id }) => hidden.has(id));
  const ofColumns = after.columns.flatMap((column) => {
    const old = known.get(column.id) ?? hidden.get(column.id);
    return old === undefined ? [] : columnChanges(old, column, after);
  });
  const changes = [
    ...apart(before, after).map((columns): TableChange => ({ t: 'let-share', table: after, columns })),
    ...tableChanges(before, after),
    ...after.retired
      .filter(({ id }) => known.has(id))
      .map((column): TableChange => ({ t: 'retire-column', table: after, column })),
    ...before.retired
      .filter(({ id }) => !kept.has(id))
      .map((column): TableChange => ({ t: 'remove-column', table: after, column })),
    ...restored.map((column): TableChange => ({ t: 'restore-column', table: after, column })),
    ...inOrder(ofColumns),
    ...after.columns
      .filter(({ id }) => !known.has(id) && !hidden.has(id))
      .map((column): TableChange => ({ t: 'add-column', table: after, column })),
    ...apart(after, before).map((columns): TableChange => ({ t: 'keep-apart', table: after, columns })),
  ];
  changes.push(...checkChanges(before, after), ...matchChanges(before, after));
  const left = [
    ...before.columns.filter(({ id }) => stays.has(id)).map(({ id }) => id),
    ...restored.map(({ id }) => id),
    ...after.columns.filter(({ id }) => !known.has(id) && !hidden.has(id)).map(({ id }) => id),
  ];
  const order = after.columns.map(({ id }) => id);
  if (left.join() !== order.join()) changes.push({ t: 'order-columns', table: after, before: left });
  // What names a record may be a column that is only now added.
  if (before.title.filter((id) => stays.has(id)).join() !== after.title.join())
    changes.push({ t: 'retitle', table: after, before: before.title });
  return changes;
}

/** The sets of `one` that `other` does not have. */
const apart = (one: Table, other: Table): (readonly string[])[] =>
  one.together.filter((set) => !other.together.some((known) => sameSet(known, set)));

/** They come last, once the columns they read are as they are wanted. */
function checkChanges(before: Table, after: Table): TableChange[] {
  const known = new Map(before.checks.map((check) => [check.id, JSON.stringify(check)]));
  const kept = new Set(after.checks.map(({ id }) => id));
  return [
    ...before.checks
      .filter(({ id }) => !kept.has(id))
      .map((check): TableChange => ({ t: 'drop-check', table: after, check })),
    ...after.checks.flatMap((check): TableChange[] => {
      const old = known.get(check.id);
      if (old === JSON.stringify(check)) return [];
      return [{ t: old === undefined ? 'add-check' : 'change-check', table: after, check }];
    }),
  ];
}

/** One that is about something else is another one. */
function matchChanges(before: Table, after: Table): TableChange[] {
  const lacking = (one: Table, other: Table) =>
    one.matches.filter((match) => !other.matches.some((known) => sameMatch(known, match)));
  return [
    ...lacking(before, after).map((match): TableChange => ({ t: 'drop-match', table: after, match })),
    ...lacking(after, before).map((match): TableChange => ({ t: 'add-match', table: after, match })),
  ];
}

const sameMatch = (one: Match, other: Match): boolean =>
  one.id === other.id && one.from === other.from && one.table === other.table && one.to === other.to;

function tableChanges(before: Table, after: Table): TableChange[] {
  const { prefix, numbering } = before;
  return [
    ...(before.label === after.label
      ? []
      : [{ t: 'relabel-table', table: after, before: before.label } as const]),
    ...(prefix === after.prefix && numbering === after.numbering
      ? []
      : [{ t: 'renumber', table: after, before: { prefix, numbering } } as const]),
    ...(before.duty?.years === after.duty?.years && before.duty?.why === after.duty?.why
      ? []
      : [{ t: 'change-duty', table: after, before: before.duty } as const]),
  ];
}

const steps: readonly TableChange['t'][] = [
  'let-repeat',
  'loosen-column',
  'rename-column',
  'relabel-column',
  'describe-column',
  'change-choices',
  'convert-column',
  'change-default',
  'change-formula',
  'lock-column',
  'unlock-column',
  'require-column',
  'make-unique',
];
const inOrder = (changes: TableChange[]): TableChange[] =>
  changes.sort((a, b) => steps.indexOf(a.t) - steps.indexOf(b.t));

function columnChanges(old: Column, column: Column, table: Table): TableChange[] {
  const change = (when: boolean, t: Extract<TableChange, { column: Column }>['t']): TableChange[] =>
    when ? [{ t, table, column, before: old } as TableChange] : [];
  const isWorkedOut = isCalculated(column);
  const converts = !isWorkedOut && isConverted(old, column);
  return [
    ...change(old.unique && !column.unique, 'let-repeat'),
    ...change(old.required && !column.required, 'loosen-column'),
    ...(old.key === column.key ? [] : [{ t: 'rename-column', table, column, before: old.key } as const]),
    ...(old.label === column.label
      ? []
      : [{ t: 'relabel-column', table, column, before: old.label } as const]),
    ...change(
      old.description !== column.description ||
        old.example !== column.example ||
        old.unit !== column.unit ||
        old.personal !== column.personal,
      'describe-column',
    ),
    ...change(!converts && !isWorkedOut && hasOtherChoices(old, column), 'change-choices'),
    ...change(
      isWorkedOut &&
        (old.formula !== column.formula ||
          old.kind !== column.kind ||
          decimalsOf(old) !== decimalsOf(column)),
      'change-formula',
    ),
    ...change(converts, 'convert-column'),
    ...change(old.default !== column.default, 'change-default'),
    ...change(!old.locked && column.locked, 'lock-column'),
    ...change(old.locked && !column.locked, 'unlock-column'),
    ...change(!old.required && column.required, 'require-column'),
    ...change(!old.unique && column.unique, 'make-unique'),
  ];
}

/** Whether values must be read anew: another kind, another table referred to, other decimals, choices that are not among those wanted. */
const isConverted = (old: Column, column: Column): boolean =>
  old.kind !== column.kind ||
  old.target !== column.target ||
  decimalsOf(old) !== decimalsOf(column) ||
  losesChoices(old, column);

function losesChoices(old: Column, column: Column): boolean {
  const codes = new Set(column.choices.map(({ code }) => code));
  return old.choices.some(({ code }) => !codes.has(code));
}

/** The choices of a list are changed with the list, not with the columns that take them. */
const hasOtherChoices = (old: Column, column: Column): boolean =>
  old.list?.id !== column.list?.id ||
  (column.list === null && JSON.stringify(old.choices) !== JSON.stringify(column.choices));

const decimalsOf = ({ kind, decimals }: Column): number =>
  kind === 'money' ? (decimals ?? 2) : kind === 'decimal' ? (decimals ?? 0) : 0;
