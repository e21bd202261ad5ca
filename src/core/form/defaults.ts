import { compile } from '../expression/compile';
import type { World } from '../expression/functions/builtin';
import { PERSON, SENDER, senderField } from '../expression/person';
import { read } from '../expression/read';
import { storedScope } from '../expression/stored-text';
import { fits, typeName, type Scope } from '../expression/type';
import { issue, withFacts, type Issue } from '../kernel/issue';
import type { Column, Table } from '../table/model';
import { isBlank, noAnswers, type Answers, type Raw } from './answers';
import { retyped } from './cells';
import { kindOf } from './column-kind';
import { pastedRaw } from './pasted';
import { readStored } from './scope';
import { sameRows } from './starting-rows';
import {
  fieldsOfForm,
  groupsOf,
  isTyped,
  type Beginning,
  type FieldQuestion,
  type FormDesign,
} from './design';

/** By group, then by column: what a row begins with. */
export type RowDefaults = Readonly<Record<string, Readonly<Record<string, Raw>>>>;

/**
 * What a new sheet begins with: the defaults of the columns it is kept in, as they would be typed, so that
 * whoever fills it sees and may change them, and the rows that are the same each time.
 */
export function defaultAnswers(
  design: FormDesign,
  tables: ReadonlyMap<string, Table>,
  world: World,
  known: KnownBefore = {},
): { answers: Answers; rows: RowDefaults } {
  const table = tables.get(design.table.id);
  const fields = fieldsOfForm(design);
  const values = { ...defaultsOf(fields, table, world), ...begunWith(fields, world, known) };
  const rows: RowDefaults = Object.fromEntries(
    groupsOf(design).map(({ id, columns, table: { id: kept } }) => [
      id,
      { ...defaultsOf(columns, tables.get(kept), world), ...begunWith(columns.filter(mayBegin), world, {}) },
    ]),
  );
  return { answers: { ...noAnswers, values, rows: sameRows(design, rows) }, rows };
}

/** What is known of whoever opens a sheet before they type anything. */
export interface KnownBefore {
  /** What the address says, by key. */
  readonly address?: Readonly<Record<string, string>>;
  /** What they answered the last time. */
  readonly last?: Answers | null;
}

/** In a row a value or what an expression gives: an address and the last time know nothing of rows. */
export const rowBeginnings: readonly Beginning['t'][] = ['value', 'formula'];
const mayBegin = ({ kind, begins }: FieldQuestion): boolean =>
  begins !== undefined && rowBeginnings.includes(begins.t) && kind !== 'lookup';

/** What questions are to begin with; where nothing comes of it, the default of the column stands. */
function begunWith(
  questions: readonly FieldQuestion[],
  world: World,
  { address = {}, last = null }: KnownBefore,
): Record<string, Raw> {
  const rawOf = (question: FieldQuestion): Raw => {
    const { begins } = question;
    switch (begins?.t) {
      case 'value':
        return begins.raw;
      case 'formula':
        return workedOut(question, begins.expression, storedScope(beginningScope), world);
      case 'address': {
        const text = Object.hasOwn(address, question.key) ? address[question.key] : undefined;
        return text === undefined ? null : pastedRaw(question, text);
      }
      case 'last':
        return question.kind === 'files' ? null : (last?.values[question.id] ?? null);
      case undefined:
        return null;
    }
  };
  return Object.fromEntries(
    questions
      .filter((question) => question.begins !== undefined && isTyped(question))
      .map((question) => [question.id, rawOf(question)] as const)
      .filter(([, raw]) => !isBlank(raw)),
  );
}

/** What is wrong with what a question begins with, and with one that is hidden and stays empty. Paths: `[question id, 'begins']`. */
export function beginningIssues(question: FieldQuestion): Issue[] {
  const { begins, hidden, required, id, label } = question;
  const path = [id, 'begins'];
  if (begins?.t === 'formula') {
    const tree = readStored(begins.expression, beginningScope, path);
    if (!tree.ok) return tree.error;
    const { type } = tree.value;
    const wanted = question.kind === 'lookup' ? PERSON : kindOf(question).type;
    return type.t === 'null' || fits(type, wanted)
      ? []
      : [issue('result-type', path, { given: typeName(type), wanted: typeName(wanted) })];
  }
  if (begins?.t === 'value' && !isBlank(begins.raw) && question.kind !== 'lookup') {
    const read = kindOf(question).read(begins.raw, question);
    return read.ok ? [] : [{ ...withFacts(read.error, { ...read.error.facts, label }), path }];
  }
  const fillsItself = begins !== undefined || !isTyped(question) || question.carry !== undefined;
  return hidden === true && required && !fillsItself ? [issue('hidden-empty', path)] : [];
}

/** What an expression for a beginning may name; the day and the time are functions. */
export const beginningScope: Scope = new Map([[SENDER, senderField]]);

function defaultsOf(
  questions: readonly FieldQuestion[],
  table: Table | undefined,
  world: World,
): Record<string, Raw> {
  return Object.fromEntries(
    questions.flatMap((question): [string, Raw][] => {
      const column = table?.columns.find(({ id }) => id === question.id);
      // What is brought along from a looked-up record comes with the pick.
      if (column === undefined || !isTyped(question) || question.carry !== undefined) return [];
      const raw = defaultOf(question, column, world);
      return raw === null ? [] : [[question.id, raw]];
    }),
  );
}

function defaultOf(question: FieldQuestion, column: Column, world: World): Raw {
  return column.default.trim() === '' ? null : workedOut(question, column.default, new Map(), world);
}

/** As it would be typed. Empty where it cannot be read or worked out. */
function workedOut(question: FieldQuestion, text: string, scope: Scope, world: World): Raw {
  const tree = read(text, scope);
  if (!tree.ok) return null;
  const value = compile(tree.value)({
    ...world,
    read: (id) => (id === SENDER ? world.sender : null),
    column: () => [],
    gaveUp: () => undefined,
  });
  return retyped(question, value);
}
