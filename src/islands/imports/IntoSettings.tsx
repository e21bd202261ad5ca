import type { DetectedSheet } from '../../core/import/detection';
import { NUMBER, type Into } from '../../core/import/into-table';
import { keptColumns, type Table } from '../../core/table/model';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { Several } from '../kit/Several';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly sheet: DetectedSheet;
  readonly into: Into;
  readonly tables: readonly Table[];
  readonly change: (into: Into) => void;
}

const ways = spoken(() => [
  { value: 'add-and-change', label: speak`new rows are added and known ones changed` },
  { value: 'add', label: speak`only new rows are added` },
  { value: 'change', label: speak`only known rows are changed` },
]);

/** How rows come into a table there is. */
export function IntoSettings({ sheet, into, tables, change }: Props) {
  const table = tables.find(({ id }) => id === into.table);
  if (table === undefined) return <p className="trouble">{speak`This table is not there any more`}</p>;
  const filled = new Set(Object.values(into.columns));
  const keys = [
    ...(filled.has(NUMBER) ? [{ value: NUMBER, label: speak`Number` }] : []),
    ...keptColumns(table)
      .filter(({ id, kind }) => filled.has(id) && kind !== 'yes-no')
      .map(({ id, label }) => ({ value: id, label })),
  ];
  const left = sheet.columns.filter(({ name }) => into.columns[name] === undefined).map(({ name }) => name);
  const empty = table.columns
    .filter(({ id, required }) => required && !filled.has(id))
    .map(({ label }) => label);
  return (
    <div className="mt-1">
      <Sentence>{speakIn`A row is a record there is, when ${(
        <Several
          label={speak`By what a row is known`}
          values={into.by}
          none={speak`everything in it agrees`}
          joined={speak` and `}
          choices={keys}
          onChange={(by) => change({ ...into, by })}
        />
      )}${into.by.length > 0 && ' agrees'}; ${(
        <Select
          label={speak`What rows may do`}
          value={into.what}
          choices={ways()}
          onChange={(what) => change({ ...into, what: what as Into['what'] })}
        />
      )}`}</Sentence>
      <Sentence>{speakIn`An empty cell ${(
        <Select
          label={speak`What an empty cell does`}
          value={into.blanks}
          choices={[
            { value: 'leave', label: speak`leaves what is there` },
            { value: 'empty', label: speak`empties what is there` },
          ]}
          onChange={(blanks) => change({ ...into, blanks: blanks === 'empty' ? 'empty' : 'leave' })}
        />
      )}`}</Sentence>
      {left.length > 0 && <Matching into={into} table={table} left={left} change={change} />}
      {empty.length > 0 && into.what !== 'change' && (
        <p className="text-[14px] text-ochre">{speak`New records need ${empty.join(', ')}, which no heading gives.`}</p>
      )}
    </div>
  );
}

/** Gives a heading that matched nothing to a column that nothing fills. */
function Matching({
  into,
  table,
  left,
  change,
}: {
  into: Into;
  table: Table;
  left: readonly string[];
  change: (into: Into) => void;
}) {
  const filled = new Set(Object.values(into.columns));
  const free = table.columns.filter(({ id }) => !filled.has(id));
  if (free.length === 0) return <p className="quiet">{speak`Not taken: ${left.join(', ')}`}.</p>;
  return (
    <Sentence>
      {left.map((name) => (
        <span key={name} className="inline-flex items-center gap-1">
          <span>{speak`${name} fills`}</span>
          <Select
            label={speak`What ${name} fills`}
            value=""
            placeholder={speak`nothing`}
            choices={free.map(({ id, label }) => ({ value: id, label }))}
            onChange={(id) => change({ ...into, columns: { ...into.columns, [name]: id } })}
          />
        </span>
      ))}
    </Sentence>
  );
}
