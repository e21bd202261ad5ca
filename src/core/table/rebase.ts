import type { Column, Table } from './model';

/** What `mine` changed of `base`, on `theirs`: what only they changed stays theirs, what both changed is mine. */
export function rebased(base: Table, mine: Table, theirs: Table): Table {
  const old = byId(base);
  const wanted = byId(mine);
  const isMine = <T>(key: (table: Table) => T): boolean =>
    JSON.stringify(key(base)) !== JSON.stringify(key(mine));
  const merged = theirs.columns.flatMap((column) => {
    const [before, now] = [old.get(column.id), wanted.get(column.id)];
    return now === undefined
      ? before === undefined
        ? [column]
        : []
      : [mergedColumn(before ?? column, now, column)];
  });
  const hidden = theirs.retired.filter(
    ({ id }) => mine.retired.some((one) => one.id === id) || !base.retired.some((one) => one.id === id),
  );
  const fresh = mine.columns.filter(
    ({ id }) =>
      !theirs.columns.some((one) => one.id === id) &&
      (!old.has(id) || base.retired.some((one) => one.id === id)),
  );
  const retired = mine.retired.filter(
    ({ id }) => base.columns.some((one) => one.id === id) && theirs.columns.some((one) => one.id === id),
  );
  const columns = [...merged.filter(({ id }) => !retired.some((one) => one.id === id)), ...fresh];
  const order = isMine(({ columns: list }) => list.map(({ id }) => id)) ? mine : theirs;
  return {
    ...theirs,
    label: isMine(({ label }) => label) ? mine.label : theirs.label,
    prefix: isMine(({ prefix }) => prefix) ? mine.prefix : theirs.prefix,
    numbering: isMine(({ numbering }) => numbering) ? mine.numbering : theirs.numbering,
    title: isMine(({ title }) => title) ? mine.title : theirs.title,
    together: isMine(({ together }) => together) ? mine.together : theirs.together,
    columns: inOrder(columns, order.columns),
    retired: [...hidden.filter(({ id }) => !fresh.some((one) => one.id === id)), ...retired],
  };
}

const byId = (table: Table): Map<string, Column> =>
  new Map(table.columns.map((column) => [column.id, column]));

function mergedColumn(base: Column, mine: Column, theirs: Column): Column {
  const changed = Object.entries(mine).filter(
    ([field, value]) => JSON.stringify(value) !== JSON.stringify(base[field as keyof Column]),
  );
  // A field of one column laid over another column gives a column.
  return { ...theirs, ...(Object.fromEntries(changed) as Partial<Column>) };
}

/** Those that `order` does not know come last. */
function inOrder(columns: readonly Column[], order: readonly Column[]): Column[] {
  const places = new Map(order.map(({ id }, i) => [id, i]));
  return [...columns].sort((a, b) => (places.get(a.id) ?? order.length) - (places.get(b.id) ?? order.length));
}
