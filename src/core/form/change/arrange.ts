import {
  allQuestions,
  groupsIn,
  groupsOf,
  isField,
  outerOf,
  type FieldQuestion,
  type FormDesign,
  type Question,
  type RowsQuestion,
  type Section,
  type StartingRows,
  type TableTarget,
} from '../design';
import { keysTaken, replaceQuestion } from '../edit';
import { withIds } from './fresh-copy';
import { keyFor } from '../key';

/** Where a question can stand: in a section, or as a column of repeating rows. */
export interface Home {
  readonly section?: string;
  readonly group?: string;
  /** Before which question, null for last. */
  readonly before: string | null;
}

/** Edits of where things stand. What cannot stand there stays where it was. */

/**
 * Takes a question to another place, also into repeating rows and out of them. Rows in rows stand in each of
 * them, one level deep; rows take those that stand in them along. Fixed text is never a column.
 */
export function placeQuestion(design: FormDesign, id: string, home: Home): FormDesign {
  const question = allQuestions(design).find((one) => one.id === id);
  if (question === undefined || home.before === id) return design;
  if (question.kind === 'rows') return placeRows(design, question, home);
  if (home.group !== undefined && !isField(question)) return design;
  const there = allQuestions(design).some((one) => one.id === home.group && one.kind === 'rows');
  if (home.group !== undefined && !there) return design;
  if (home.group === undefined && !design.sections.some((section) => section.id === home.section))
    return design;
  const from = groupOf(design, id);
  const left = withoutQuestion(design, id, from !== home.group);
  // A key may be free among the columns and taken among the questions.
  const moved =
    from === home.group ? question : { ...question, key: keyFor(question.key, keysTaken(left, home.group)) };
  return withQuestion(left, moved, home);
}

function placeRows(design: FormDesign, rows: RowsQuestion, home: Home): FormDesign {
  if (home.group !== undefined) return withinRows(design, rows.id, home.group);
  if (!design.sections.some((section) => section.id === home.section)) return design;
  const inner = groupsIn(design, rows);
  const left = [rows, ...inner].reduce((now, { id }) => withoutQuestion(now, id, false), design);
  const { within: _within, ...outside } = rows;
  return [outside, ...inner].reduce((now, one) => withQuestion(now, one, home), left);
}

/** Lets rows stand in each row of a group, right behind it in the design; null, of the form again. What cannot be stays as it is. */
export function withinRows(design: FormDesign, id: string, outer: string | null): FormDesign {
  const rows = groupsOf(design).find((one) => one.id === id);
  if (rows === undefined) return design;
  const section = design.sections.find(({ questions }) => questions.some((one) => one.id === (outer ?? id)));
  if (section === undefined) return design;
  const { within: _within, starts, ...rest } = rows;
  if (outer === null) return replaceQuestion(design, id, () => ({ ...rest, ...(starts && { starts }) }));
  const into = groupsOf(design).find((one) => one.id === outer);
  if (into === undefined || into.id === id || into.within !== undefined || groupsIn(design, rows).length > 0)
    return design;
  const left = withoutQuestion(design, id, false);
  const questions = left.sections.find((one) => one.id === section.id)?.questions ?? [];
  const before = questions[questions.findIndex((one) => one.id === outer) + 1]?.id ?? null;
  return withQuestion(left, { ...rest, within: outer }, { section: section.id, before });
}

const groupOf = (design: FormDesign, id: string): string | undefined =>
  allQuestions(design).find((one) => one.kind === 'rows' && one.columns.some((column) => column.id === id))
    ?.id;

/** `totals`: what is totalled of it goes too, for it leaves its rows. */
function withoutQuestion(design: FormDesign, id: string, totals: boolean): FormDesign {
  return mapSections(design, (section) => ({
    ...section,
    questions: section.questions
      .filter((one) => one.id !== id)
      .map((one) =>
        one.kind === 'rows' && one.columns.some((column) => column.id === id)
          ? {
              ...one,
              columns: one.columns.filter((column) => column.id !== id),
              ...(totals && {
                totals: one.totals.filter(({ column }) => column !== id),
                ...(one.distinct !== undefined && {
                  distinct: one.distinct.filter((column) => column !== id),
                }),
              }),
            }
          : one,
      ),
  }));
}

const withQuestion = (design: FormDesign, question: Question, { section, group, before }: Home): FormDesign =>
  mapSections(design, (one) => ({
    ...one,
    questions: (one.id === section && group === undefined
      ? insertedBefore(one.questions, question, before)
      : one.questions
    ).map((inner) =>
      inner.id === group && inner.kind === 'rows'
        ? // Only a question with one answer comes here.
          { ...inner, columns: insertedBefore(inner.columns, question as FieldQuestion, before) }
        : inner,
    ),
  }));

function insertedBefore<T extends { readonly id: string }>(
  list: readonly T[],
  item: T,
  before: string | null,
): readonly T[] {
  const at = before === null ? -1 : list.findIndex(({ id }) => id === before);
  return at < 0 ? [...list, item] : [...list.slice(0, at), item, ...list.slice(at)];
}

const mapSections = (design: FormDesign, change: (section: Section) => Section): FormDesign => ({
  ...design,
  sections: design.sections.map(change),
});

/** Moves a question or column by one place, from the end of a section into the next one. */
export function nudgeQuestion(design: FormDesign, id: string, by: 1 | -1): FormDesign {
  const rows = groupsOf(design).find((one) => one.id === id);
  const outer = rows === undefined ? null : outerOf(design, rows);
  if (rows !== undefined && outer !== null) return nudgeWithin(design, rows, groupsIn(design, outer), by);
  const group = groupOf(design, id);
  const homes: readonly { home: Omit<Home, 'before'>; ids: readonly string[] }[] =
    group !== undefined
      ? allQuestions(design).flatMap((one) =>
          one.id === group && one.kind === 'rows'
            ? [{ home: { group }, ids: one.columns.map((column) => column.id) }]
            : [],
        )
      : design.sections.map((section) => ({
          home: { section: section.id },
          ids: section.questions.filter((one) => outerOf(design, one) === null).map((one) => one.id),
        }));
  const at = homes.findIndex(({ ids }) => ids.includes(id));
  const here = homes[at];
  if (here === undefined) return design;
  const index = here.ids.indexOf(id);
  const within = index + by >= 0 && index + by < here.ids.length;
  if (within)
    return placeQuestion(design, id, {
      ...here.home,
      before: (by === -1 ? here.ids[index - 1] : here.ids[index + 2]) ?? null,
    });
  const next = homes[at + by];
  return next === undefined
    ? design
    : placeQuestion(design, id, { ...next.home, before: by === 1 ? (next.ids[0] ?? null) : null });
}

/** Rows within rows change places with those before or after them in the same rows. */
function nudgeWithin(
  design: FormDesign,
  rows: RowsQuestion,
  siblings: readonly RowsQuestion[],
  by: 1 | -1,
): FormDesign {
  const other = siblings[siblings.findIndex(({ id }) => id === rows.id) + by];
  if (other === undefined) return design;
  return mapSections(design, (section) => ({
    ...section,
    questions: section.questions.map((one) =>
      one.id === rows.id ? other : one.id === other.id ? rows : one,
    ),
  }));
}

export function addSection(design: FormDesign, section: Section, after: string): FormDesign {
  const at = design.sections.findIndex(({ id }) => id === after) + 1;
  return { ...design, sections: [...design.sections.slice(0, at), section, ...design.sections.slice(at)] };
}

/** A setting that is undefined is one that is left out. */
export const changeSection = (design: FormDesign, id: string, part: Partial<Section>): FormDesign =>
  mapSections(design, (section) => (section.id === id ? { ...section, ...part } : section));

export function moveSection(design: FormDesign, id: string, by: 1 | -1): FormDesign {
  const at = design.sections.findIndex((section) => section.id === id);
  const [one, other] = [design.sections[at], design.sections[at + by]];
  if (one === undefined || other === undefined) return design;
  const sections = [...design.sections];
  [sections[at], sections[at + by]] = [other, one];
  return { ...design, sections };
}

/** Takes a section away; its questions go on standing at the end of the one before it, or the beginning of the next. The only one stays. */
export function dissolveSection(design: FormDesign, id: string): FormDesign {
  const at = design.sections.findIndex((section) => section.id === id);
  const gone = design.sections[at];
  if (gone === undefined || design.sections.length === 1) return design;
  const heir = design.sections[at === 0 ? 1 : at - 1];
  return {
    ...design,
    sections: design.sections
      .filter((section) => section !== gone)
      .map((section) =>
        section !== heir
          ? section
          : {
              ...section,
              questions:
                at === 0
                  ? [...gone.questions, ...section.questions]
                  : [...section.questions, ...gone.questions],
            },
      ),
  };
}

/** A second one right behind it, with its columns, its totals and the checks on it. Gives the design and the id of the copy. */
export function duplicateQuestion(
  design: FormDesign,
  id: string,
  newId: () => string,
  tableFor: (rows: Question) => TableTarget,
): { design: FormDesign; copy: string | null } {
  const question = allQuestions(design).find((one) => one.id === id);
  if (question === undefined) return { design, copy: null };
  const all: Question[] = [question, ...(question.kind === 'rows' ? groupsIn(design, question) : [])];
  const parts = all.flatMap((one): readonly { id: string }[] =>
    one.kind === 'rows' ? [one, ...one.columns, ...one.totals] : [one],
  );
  const ids = new Map(parts.map((one) => [one.id, newId()]));
  const group = groupOf(design, id);
  const taken = keysTaken(design, group);
  const named = <T extends { id: string; key: string }>(one: T): T => {
    const key = keyFor(one.key, taken);
    taken.add(key);
    return { ...one, id: ids.get(one.id) ?? one.id, key };
  };
  const copies = all.map((one) => copied(one, named, ids, tableFor));
  const list =
    group === undefined ? design.sections.flatMap((one) => one.questions) : columnsOf(design, group);
  const after = list[list.findIndex((one) => one.id === all.at(-1)?.id) + 1]?.id ?? null;
  const home: Home =
    group === undefined ? { section: sectionOf(design, id), before: after } : { group, before: after };
  const checks = design.checks
    .filter(({ on }) => ids.has(on))
    .map((check) => ({
      ...check,
      id: newId(),
      on: ids.get(check.on) ?? check.on,
      must: withIds(check.must, ids),
    }));
  return {
    design: {
      ...copies.reduce((now, one) => withQuestion(now, one, home), design),
      checks: [...design.checks, ...checks],
    },
    copy: ids.get(id) ?? null,
  };
}

const columnsOf = (design: FormDesign, group: string): readonly Question[] =>
  allQuestions(design).flatMap((one) => (one.id === group && one.kind === 'rows' ? one.columns : []));
const sectionOf = (design: FormDesign, id: string): string =>
  design.sections.find(({ questions }) => questions.some((one) => one.id === id))?.id ?? '';

function copied(
  question: Question,
  named: <T extends { id: string; key: string }>(one: T) => T,
  ids: ReadonlyMap<string, string>,
  tableFor: (rows: Question) => TableTarget,
): Question {
  const own = rewired(named(question), ids);
  if (own.kind !== 'rows') return own;
  const idOf = (id: string): string => ids.get(id) ?? id;
  // Columns have keys of their own, that of the first is as free in the copy.
  return {
    ...own,
    columns: own.columns.map((column) => rewired({ ...column, id: idOf(column.id) }, ids)),
    totals: own.totals.map((total) => ({ ...named(total), column: idOf(total.column) })),
    ...(own.distinct !== undefined && { distinct: own.distinct.map(idOf) }),
    ...(own.starts !== undefined && { starts: startsFor(own.starts, ids) }),
    ...(own.within !== undefined && { within: idOf(own.within) }),
    table: tableFor(own),
  };
}

function startsFor(starts: StartingRows, ids: ReadonlyMap<string, string>): StartingRows {
  const idOf = (id: string): string => ids.get(id) ?? id;
  switch (starts.t) {
    case 'empty':
      return starts;
    case 'same':
      return {
        t: 'same',
        rows: starts.rows.map((row) =>
          Object.fromEntries(Object.entries(row).map(([id, cell]) => [idOf(id), cell])),
        ),
      };
    case 'each':
      return {
        ...starts,
        lookup: idOf(starts.lookup),
        ...(starts.where !== undefined && { where: withIds(starts.where, ids) }),
      };
  }
}

const formulas = ['askWhen', 'requireWhen', 'where', 'expression'] as const;

/** Its formulas read the copies in place of what was copied. */
function rewired<Q extends Question>(question: Q, ids: ReadonlyMap<string, string>): Q {
  const next: Record<string, unknown> = { ...question };
  for (const key of formulas) if (typeof next[key] === 'string') next[key] = withIds(next[key], ids);
  if (question.carry !== undefined)
    next['carry'] = { ...question.carry, lookup: ids.get(question.carry.lookup) ?? question.carry.lookup };
  // Only texts were changed.
  return next as unknown as Q;
}
