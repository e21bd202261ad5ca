import { choicesNamed, inOrder } from '../table/kinds/choices';
import { listStored, storedList } from '../table/kinds/stored-list';
import { isBlank, type AnswerRow, type Answers, type Raw } from './answers';
import type { FieldQuestion, FormDesign, Question, RowsQuestion } from './design';
import { groupsOf, isField, questionsOf } from './design';
import { speak } from '../wording/speak';

/** Something typed that has no place in the other release: what was asked, and what was answered. */
export interface LeftBehind {
  readonly label: string;
  readonly text: string;
}

/** What somebody reads in place of an answer as it is kept: of a lookup its record's title. */
export type ShowAnswer = (question: FieldQuestion, raw: Raw) => string;

/**
 * The answers of a draft as another release of its form asks for them. What is still asked is carried over as
 * it was typed, also where it no longer fits, to be seen and put right; what has no question any more is
 * told, so that nothing goes in silence.
 */
export function carriedOver(
  from: FormDesign,
  to: FormDesign,
  { values, rows, reasons }: Answers,
  show: ShowAnswer,
  checks: ReadonlySet<string>,
): { answers: Answers; left: LeftBehind[] } {
  const left: LeftBehind[] = [];
  const asked = new Map(questionsOf(to).map((one) => [one.id, one]));
  const groups = new Map(groupsOf(to).map((one) => [one.id, one]));
  const cells = cellsBetween(fieldsIn(questionsOf(from)), fieldsIn([...asked.values()]), show);
  const own = cells(values);
  left.push(...own.left);
  const kept: Record<string, readonly AnswerRow[]> = {};
  for (const [id, list] of Object.entries(rows)) {
    const group = groupsOf(from).find((one) => one.id === id);
    const other = groups.get(id);
    if (group === undefined) continue;
    const moved = rowsBetween(group, other, list, show);
    if (other !== undefined) kept[id] = moved.rows;
    left.push(...moved.left);
  }
  const given = Object.entries(reasons);
  for (const [id, text] of given)
    if (!checks.has(id) && text.trim() !== '')
      left.push({ label: from.checks.find((one) => one.id === id)?.message ?? 'A reason', text });
  return {
    answers: {
      values: own.cells,
      rows: kept,
      reasons: Object.fromEntries(given.filter(([id]) => checks.has(id))),
    },
    left,
  };
}

const fieldsIn = (questions: readonly Question[]): FieldQuestion[] => questions.filter(isField);

function rowsBetween(
  group: RowsQuestion,
  other: RowsQuestion | undefined,
  list: readonly AnswerRow[],
  show: ShowAnswer,
): { rows: AnswerRow[]; left: LeftBehind[] } {
  // Rows that were of the form, and stand in others now, have none they could stand in.
  const hasPlace = other !== undefined && (other.within === undefined || other.within === group.within);
  const cells = cellsBetween(group.columns, hasPlace ? other.columns : [], show);
  const of = (row: AnswerRow) => (other?.within === undefined ? {} : { of: row.of });
  const moved = list.map((row) => ({ id: row.id, ...of(row), ...cells(row.cells) }));
  return {
    rows: hasPlace ? moved.map(({ left: _left, ...row }) => row) : [],
    left: moved.flatMap((row, i) =>
      row.left.map(({ label, text }) => ({ label: speak`${group.label}, row ${i + 1}: ${label}`, text })),
    ),
  };
}

function cellsBetween(from: readonly FieldQuestion[], to: readonly FieldQuestion[], show: ShowAnswer) {
  const [before, after] = [from, to].map((list) => new Map(list.map((one) => [one.id, one])));
  // What is kept in another column since has another id, and the same key.
  const byKey = new Map(to.filter(({ id }) => before?.has(id) !== true).map((one) => [one.key, one]));
  return (cells: Readonly<Record<string, Raw>>): { cells: Record<string, Raw>; left: LeftBehind[] } => {
    const kept: Record<string, Raw> = {};
    const left: LeftBehind[] = [];
    for (const [id, raw] of Object.entries(cells)) {
      const old = before?.get(id);
      const now = after?.get(id) ?? (old === undefined ? undefined : byKey.get(old.key));
      const moved = old === undefined || now === undefined ? undefined : answerBetween(old, now, raw, show);
      if (moved !== undefined) kept[now?.id ?? id] = moved;
      else if (old !== undefined && !isBlank(raw)) left.push({ label: old.label, text: show(old, raw) });
    }
    return { cells: kept, left };
  };
}

/**
 * Undefined where it says nothing to the other question. Choices are stored by codes, lookups by ids and yes
 * or no as such; all else is text as typed.
 */
function answerBetween(from: FieldQuestion, to: FieldQuestion, raw: Raw, show: ShowAnswer): Raw | undefined {
  if (to.kind === 'calculated') return undefined;
  if (isBlank(raw)) return raw;
  if (from.kind === 'lookup' || to.kind === 'lookup')
    return from.kind === 'lookup' && to.kind === 'lookup' && from.table === to.table
      ? raw
      : asText(from, to, raw, show);
  if (isTicked(from) || isTicked(to))
    return isTicked(from) && isTicked(to) && (raw === true || to.kind === 'yes-no')
      ? raw
      : asText(from, to, raw, show);
  if ('choices' in to) return chosenBetween(from, to, raw, show);
  return 'choices' in from ? asText(from, to, raw, show) : raw;
}

const isTicked = ({ kind }: FieldQuestion): boolean => kind === 'yes-no' || kind === 'confirmation';

/** The same codes where both offer them, whatever they are called now; else what their words name. */
function chosenBetween(
  from: FieldQuestion,
  to: Extract<FieldQuestion, { choices: unknown }>,
  raw: Raw,
  show: ShowAnswer,
): Raw | undefined {
  const chosen =
    from.kind === 'choice'
      ? [String(raw)]
      : from.kind === 'choices'
        ? (listStored(String(raw)) ?? [])
        : choicesNamed(show(from, raw), to.choices);
  const known = chosen?.every((code) => to.choices.some((one) => one.code === code)) === true;
  if (!known || chosen === null) return undefined;
  if (to.kind === 'choices') return storedList(inOrder(new Set(chosen), to.choices));
  return chosen.length === 1 ? chosen[0] : undefined;
}

/** A title, a word or a label goes on as a text, and as nothing else. */
const asText = (from: FieldQuestion, to: FieldQuestion, raw: Raw, show: ShowAnswer): Raw | undefined =>
  to.kind === 'text' ? show(from, raw) : undefined;
