import { useState } from 'react';
import type { LikelyMatches } from '../../contract/table-changes';
import { newShortId } from '../../core/kernel/ids';
import { dropMatch, setMatch } from '../../core/table/edit';
import type { LikelyMatch } from '../../core/table/likely-matches';
import { matchable, matchClass, matchedWith } from '../../core/table/matches';
import { keptColumns, type Match, type Table } from '../../core/table/model';
import { issueSentence } from '../../core/wording/issue-sentence';
import { call } from '../kit/call';
import { Equal, Plus, Search, X } from '../kit/icons';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import type { TableDesign } from './use-table-design';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Records of other tables that are shown beside those of this one because they hold the same value. */
export function Matches({ design }: { design: TableDesign }) {
  const { table, others, editTable } = design;
  const tables = new Map(others).set(table.id, table);
  const bySomebody = matchedWith(table, tables).filter(({ via }) => via.endsWith('-back'));
  const columns = keptColumns(table).filter((column) => matchClass(column) !== null);
  if (columns.length === 0) return null;
  const begin = () =>
    editTable((one) =>
      setMatch(one, { id: newShortId(), from: columns[0]?.id ?? '', table: one.id, to: '' }),
    );
  return (
    <section className="margin-part" aria-labelledby="matches">
      <h2 id="matches" className="margin-title">
        <Equal size={16} aria-hidden />
        {speak`Related by the same value`}
      </h2>
      {table.matches.length + bySomebody.length === 0 && (
        <p className="quiet mb-1.5">{speak`Records of another table that hold the same value are shown beside a record, without a reference.`}</p>
      )}
      {table.matches.map((match) => (
        <MatchSentence key={match.id} design={design} match={match} tables={tables} />
      ))}
      {bySomebody.map(({ via, from, table: other, to }) => (
        <p
          key={via}
          className="quiet mb-1.5"
        >{speak`${other.label} says that its ${to.label} is the same as ${from.label} here.`}</p>
      ))}
      <button type="button" className="button-plain" onClick={begin}>
        <Plus size={15} aria-hidden />
        {speak`Relate another table by a value`}
      </button>
      {design.data.table !== null && <Likely design={design} tables={tables} />}
    </section>
  );
}

type Tables = ReadonlyMap<string, Table>;

function MatchSentence({ design, match, tables }: { design: TableDesign; match: Match; tables: Tables }) {
  const { table, editTable } = design;
  const from = table.columns.find(({ id }) => id === match.from);
  const other = tables.get(match.table);
  const change = (part: Partial<Match>) => editTable((one) => setMatch(one, { ...match, ...part }));
  const fitting = (of: Table | undefined, column = from) =>
    of === undefined || column === undefined ? [] : matchable(of, column);
  const named = (columns: readonly { id: string; label: string }[]) =>
    columns.map(({ id, label }) => ({ value: id, label }));
  return (
    <div className="mb-1.5 border-b border-slate-200 pb-1">
      <Sentence>{speakIn`A record shows those of ${(
        <Select
          label={speak`The table that is related`}
          value={match.table}
          choices={[...tables.values()].map(({ id, label }) => ({ value: id, label }))}
          onChange={(id) => change({ table: id, to: fitting(tables.get(id))[0]?.id ?? '' })}
        />
      )} whose ${(
        <Select
          label={speak`The column of the other table`}
          value={match.to === '' ? null : match.to}
          placeholder={speak`pick a column`}
          choices={named(fitting(other))}
          onChange={(to) => change({ to })}
        />
      )} is the same as its ${(
        <Select
          label={speak`The column whose value is the same`}
          value={match.from}
          choices={named(keptColumns(table).filter((column) => matchClass(column) !== null))}
          onChange={(id) => {
            const column = table.columns.find((one) => one.id === id);
            change({ from: id, to: fitting(other, column).find((one) => one.id === match.to)?.id ?? '' });
          }}
        />
      )}${(
        <button
          type="button"
          className="button-plain px-1!"
          aria-label={speak`Relate ${other?.label ?? speak`this table`} no more`}
          onClick={() => editTable((one) => dropMatch(one, match.id))}
        >
          <X size={15} aria-hidden />
        </button>
      )}`}</Sentence>
      {design.issuesAt('matches', match.id).map((issue, i) => (
        <p key={i} className="trouble">
          {issueSentence(issue)}
        </p>
      ))}
    </div>
  );
}

type Looked = 'not yet' | 'looking' | 'failed' | LikelyMatches;

/** What the values themselves say, to be taken with a click. */
function Likely({ design, tables }: { design: TableDesign; tables: Tables }) {
  const { table, editTable } = design;
  const [looked, setLooked] = useState<Looked>('not yet');
  const look = async () => {
    setLooked('looking');
    const found = await call<LikelyMatches>('GET', `/api/tables/${design.data.table?.key}/matches`).catch(
      () => null,
    );
    setLooked(found?.ok === true ? found.value : 'failed');
  };
  const known = matchedWith(table, tables);
  const taken = (one: LikelyMatch): boolean =>
    known.some(
      ({ from, table: other, to }) => from.id === one.from && other.id === one.table && to.id === one.to,
    );
  const take = ({ from, table: other, to }: LikelyMatch) =>
    editTable((one) => setMatch(one, { id: newShortId(), from, table: other, to }));
  return (
    <>
      <button
        type="button"
        className="button-plain"
        disabled={looked === 'looking'}
        onClick={() => void look()}
      >
        <Search size={15} aria-hidden />
        {looked === 'looking'
          ? speak`Looking at what the tables hold`
          : speak`Look for tables that hold the same`}
      </button>
      <div aria-live="polite" className="text-[14px]">
        {looked === 'failed' && (
          <p className="trouble">{speak`The tables could not be looked through. Try again.`}</p>
        )}
        {typeof looked === 'object' && (
          <>
            {looked.matches.length === 0 && (
              <p className="quiet">{speak`No other table holds the same values.`}</p>
            )}
            <ul className="grid gap-1.5">
              {looked.matches
                .filter((one) => !taken(one))
                .slice(0, 8)
                .map((one) => (
                  <LikelyLine
                    key={`${one.from} ${one.table} ${one.to}`}
                    one={one}
                    table={table}
                    tables={tables}
                    onTake={take}
                  />
                ))}
            </ul>
            {looked.left.length > 0 && (
              <p className="quiet mt-1">
                {speak`Too large to be looked through: ${looked.left.join(', ')}`}.
              </p>
            )}
          </>
        )}
      </div>
    </>
  );
}

interface LikelyLineProps {
  readonly one: LikelyMatch;
  readonly table: Table;
  readonly tables: Tables;
  readonly onTake: (one: LikelyMatch) => void;
}

function LikelyLine({ one, table, tables, onTake }: LikelyLineProps) {
  const other = tables.get(one.table);
  const from = table.columns.find(({ id }) => id === one.from);
  const to = other?.columns.find(({ id }) => id === one.to);
  if (other === undefined || from === undefined || to === undefined) return null;
  const here = `${table.label} › ${from.label}`;
  const there = `${other.label} › ${to.label}`;
  return (
    <li className="flex items-start justify-between gap-2 rounded-md bg-marker-soft px-2 py-1.5">
      <span>
        {speak`${one.found} of ${one.of} values of ${one.turned ? there : here} are found in ${one.turned ? here : there}`}
        .
      </span>
      <button
        type="button"
        className="button shrink-0"
        onClick={() => onTake(one)}
      >{speak`Relate ${other.label}`}</button>
    </li>
  );
}
