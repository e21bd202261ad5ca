import type { Catalogue } from '../catalogue/catalogue';
import { PEOPLE } from '../expression/type';
import type { Whom } from '../rules/rules';
import type { Table } from '../table/model';
import { reidentified } from './change/fresh-copy';
import { allQuestions, besides, rulesIn, type FormDesign, GO_ON } from './design';

/**
 * A form as it is taken out of one workspace and into another: its design, and by what the tables, people and
 * groups it names are known again.
 */
export interface FormFile {
  readonly format: 'tidy-slate-form';
  readonly version: 1;
  readonly design: FormDesign;
  readonly tables: readonly NamedTable[];
  readonly people: readonly { readonly id: string; readonly email: string; readonly name: string }[];
  readonly groups: readonly { readonly id: string; readonly label: string }[];
  /** Those of its fixed texts; `bytes` is Base64. */
  readonly pictures: readonly PictureInFile[];
}

export interface PictureInFile {
  readonly id: string;
  readonly bytes: string;
}

export interface NamedTable {
  readonly id: string;
  readonly key: string;
  readonly label: string;
  readonly columns: readonly { readonly id: string; readonly key: string }[];
}

export function formFile(
  design: FormDesign,
  { tables, people, groups }: Pick<Catalogue, 'tables' | 'people' | 'groups'>,
  pictures: FormFile['pictures'] = [],
): FormFile {
  const picked = new Set(allQuestions(design).flatMap((one) => (one.kind === 'lookup' ? [one.table] : [])));
  const asked = new Set(
    [...design.steps, ...rulesIn(design).flatMap(({ rows }) => rows.flatMap(({ gives }) => gives))]
      .flatMap(({ people: some, groups: more = [] }) => [...some, ...more])
      .concat(design.steps.flatMap(besides)),
  );
  return {
    format: 'tidy-slate-form',
    version: 1,
    design,
    tables: [...tables.values()]
      .filter(({ id }) => picked.has(id))
      .map(({ id, key, label, columns }) => ({ id, key, label, columns: columns.map(namedColumn) })),
    people: [...people.values()]
      .filter(({ id }) => asked.has(id))
      .map(({ id, email, name }) => ({ id, email, name })),
    groups: [...groups.values()].filter(({ id }) => asked.has(id)).map(({ id, label }) => ({ id, label })),
    pictures,
  };
}

const namedColumn = ({ id, key }: { readonly id: string; readonly key: string }) => ({ id, key });

/** What a form from elsewhere names and this workspace does not have. */
export interface Unknown {
  readonly tables: readonly string[];
  readonly people: readonly string[];
  readonly groups: readonly string[];
}

/**
 * The design of a file with the tables, people and groups of this workspace in place of those it names: the
 * same where they have the same id, or else those with the same key, address or name. A lookup of a table
 * that is not here has to be given one; people and groups that are not here are asked no more.
 */
export function designOfFile(
  { design, tables, people, groups }: FormFile,
  here: Pick<Catalogue, 'tables' | 'people' | 'groups' | 'lists'>,
): { design: FormDesign; unknown: Unknown } {
  const found = tables.map((table) => ({ table, own: tableHere(table, here.tables) }));
  const met = people.map((one) => ({
    one,
    own: here.people.get(one.id) ?? [...here.people.values()].find(({ email }) => email === one.email),
  }));
  const asked = groups.map((one) => ({
    one,
    own: here.groups.get(one.id) ?? [...here.groups.values()].find(({ label }) => label === one.label),
  }));
  const ids = new Map<string, string>([
    ...found.flatMap(({ table, own }) => (own === undefined ? [] : columnIds(table, own))),
    ...[...met, ...asked].flatMap(({ one, own }) => (own === undefined ? [] : [[one.id, own.id] as const])),
  ]);
  const known = reidentified(design, ids);
  return {
    design: withoutUnknown(known, here),
    unknown: {
      tables: found.filter(({ own }) => own === undefined).map(({ table }) => table.label),
      people: met.filter(({ own }) => own === undefined).map(({ one }) => one.name),
      groups: asked.filter(({ own }) => own === undefined).map(({ one }) => one.label),
    },
  };
}

const tableHere = ({ id, key }: NamedTable, tables: ReadonlyMap<string, Table>): Table | undefined =>
  tables.get(id) ?? [...tables.values()].find((table) => table.key === key);

const columnIds = (table: NamedTable, own: Table): (readonly [string, string])[] =>
  table.id === own.id
    ? []
    : [
        [table.id, own.id],
        ...table.columns.flatMap(({ id, key }) => {
          const column = own.columns.find((one) => one.key === key);
          return column === undefined ? [] : [[id, column.id] as const];
        }),
      ];

function withoutUnknown(
  design: FormDesign,
  { tables, people, groups, lists }: Pick<Catalogue, 'tables' | 'people' | 'groups' | 'lists'>,
): FormDesign {
  const settled = <Q extends object>(question: Q): Q => ({
    ...question,
    ...('list' in question &&
      !lists.has((question.list as { id?: string } | undefined)?.id ?? '') && { list: undefined }),
    ...('show' in question &&
      'table' in question &&
      question.table !== PEOPLE &&
      !tables.has(String(question.table)) && { table: '', show: [], where: undefined }),
  });
  const asking = <W extends Whom>(whom: W): W => ({
    ...whom,
    people: whom.people.filter((id) => people.has(id)),
    ...(whom.groups !== undefined && { groups: whom.groups.filter((id) => groups.has(id)) }),
  });
  return {
    ...design,
    sections: design.sections.map((section) => ({
      ...section,
      questions: section.questions.map((one) =>
        one.kind === 'rows' ? { ...one, columns: one.columns.map(settled) } : settled(one),
      ),
    })),
    ...(design.rules !== undefined && {
      rules: design.rules.map((table) => ({
        ...table,
        rows: table.rows.map((row) => ({ ...row, gives: row.gives.map(asking) })),
      })),
    }),
    steps: design.steps.map((step) => ({
      ...asking(step),
      ...(step.late !== undefined && {
        late: step.late === 'manager' || step.late === GO_ON || people.has(step.late) ? step.late : undefined,
      }),
      ...(step.role !== undefined && { role: groups.has(step.role.group) ? step.role : undefined }),
      ...(step.fallback !== undefined && {
        fallback: people.has(step.fallback) ? step.fallback : undefined,
      }),
    })),
  };
}
