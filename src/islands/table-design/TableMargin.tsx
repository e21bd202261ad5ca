import { History, Plus } from '../kit/icons';
import { keyFor } from '../../core/form/key';
import { changeTogether } from '../../core/table/edit';
import { keptColumns, numberings, recordNumber, type Numbering } from '../../core/table/model';
import { planRedesign } from '../../core/table/redesign';
import { changeSentence, numberingChoices, yearsInWords } from '../../core/wording/change-sentence';
import { issueSentence } from '../../core/wording/issue-sentence';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import { Several } from '../kit/Several';
import { when } from '../kit/when';
import type { TableDesign } from './use-table-design';
import { Who } from '../kit/Who';
import { Matches } from './Matches';
import { WritingForms } from './WritingForms';
import { speak, spoken } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const tableSentences = spoken(
  () =>
    [
      { action: 'see', does: speak`see its records` },
      { action: 'add', does: speak`add records to it` },
      { action: 'change', does: speak`change them` },
      { action: 'remove', does: speak`remove them` },
      { action: 'pick', does: speak`offer its records in forms they design` },
      { action: 'design', does: speak`design it, and say who may do what` },
    ] as const,
);

/** What concerns the table as a whole. */
export function TableMargin({ design }: { design: TableDesign }) {
  const { table, editTable, isNew, others, base } = design;
  // An empty sheet is not wrong yet.
  const begun = table.label !== '' || table.columns.length > 0;
  const columns = keptColumns(table).map(({ id, label }) => ({ value: id, label }));
  const parents = [
    { value: '', label: speak`to no other record` },
    ...[...others.values()]
      .filter(({ parent }) => parent === null)
      .map(({ id, label }) => ({ value: id, label: speak`to a record of ${label}, as its rows` })),
  ];
  return (
    <>
      <section className="margin-part first" aria-label={speak`The table`}>
        <h2 className="margin-title">{speak`The table`}</h2>
        <Sentence>
          {speak`is kept as`}{' '}
          {isNew ? (
            <>{speakIn`records.${(
              <Word
                mono
                label={speak`Key of the table`}
                value={table.key}
                placeholder={speak`key`}
                onChange={(key) =>
                  editTable((one) => ({ ...one, key: key === '' ? '' : keyFor(key, new Set(), 'table') }))
                }
              />
            )}`}</>
          ) : (
            <code className="font-mono font-semibold">{speakIn`records.${base?.key}`}</code>
          )}
        </Sentence>
        {isNew && others.size > 0 && (
          <Sentence>{speakIn`A record belongs ${(
            <Select
              label={speak`What a record belongs to`}
              value={table.parent ?? ''}
              choices={parents}
              onChange={(parent) => editTable((one) => ({ ...one, parent: parent === '' ? null : parent }))}
            />
          )}`}</Sentence>
        )}
        <Sentence>{speakIn`Its records are named by ${(
          <Several
            label={speak`Columns that name a record`}
            values={table.title}
            none={speak`their number`}
            choices={columns}
            joined={speak` and `}
            onChange={(title) => editTable((one) => ({ ...one, title }))}
          />
        )}`}</Sentence>
        <Sentence>{speakIn`They are numbered ${(
          <Word
            mono
            label={speak`What stands before the numbers`}
            value={table.prefix}
            placeholder="AB"
            onChange={(prefix) =>
              editTable((one) => ({
                ...one,
                prefix: prefix
                  .toUpperCase()
                  .replace(/[^A-Z0-9]/g, '')
                  .slice(0, 6),
              }))
            }
          />
        )} ${(
          <Select
            label={speak`How numbers go on`}
            value={table.numbering}
            choices={numberings.map((value) => ({ value, label: numberingChoices()[value] }))}
            onChange={(numbering) => editTable((one) => ({ ...one, numbering: numbering as Numbering }))}
          />
        )}`}</Sentence>
        <p className="quiet mb-1.5">{speak`${recordNumber({ ...table, prefix: table.prefix || 'AB' }, new Date().getFullYear(), 1)}, ${recordNumber({ ...table, prefix: table.prefix || 'AB' }, new Date().getFullYear(), 2)} and so on. No number is given twice.`}</p>
        <DutySentence design={design} />
        {table.together.map((set) => (
          <Sentence key={set.join()}>{speakIn`No two records may share ${(
            <Several
              label={speak`Columns not shared together`}
              values={set}
              none="nothing"
              choices={columns}
              joined={speak` and `}
              onChange={(next) => editTable((one) => changeTogether(one, set, next))}
            />
          )}`}</Sentence>
        ))}
        {table.columns.length > 1 && (
          <button
            type="button"
            className="button-plain"
            onClick={() =>
              editTable((one) =>
                changeTogether(
                  one,
                  null,
                  one.columns.slice(0, 2).map(({ id }) => id),
                ),
              )
            }
          >
            <Plus size={15} aria-hidden />
            {speak`Columns no two records may share together`}
          </button>
        )}
        <div aria-live="polite">
          {(begun ? design.issuesAt('table') : []).slice(0, 3).map((issue, i) => (
            <p key={i} className="trouble">
              {issueSentence(issue)}
            </p>
          ))}
        </div>
      </section>
      {design.data.table !== null && (
        <Who path={`/api/tables/${design.data.table.key}/who`} asked={tableSentences()} unsaid={null} />
      )}
      <Matches design={design} />
      <WritingForms design={design} />
      <section className="margin-part">
        <p className="quiet">
          {isNew
            ? speak`Type its columns on the sheet. Nothing is made until you have looked it over.`
            : speak`Pick a column to change it. Nothing changes in the table until you have looked the changes over.`}
        </p>
      </section>
      {design.data.done.length > 0 && <Done design={design} />}
    </>
  );
}

function Done({
  design: {
    data: { done },
  },
}: {
  design: TableDesign;
}) {
  return (
    <section className="margin-part" aria-labelledby="done">
      <h2 id="done" className="margin-title">
        <History size={16} aria-hidden />
        {speak`What changed`}
      </h2>
      <ol className="grid gap-2 text-[14px]">
        {done.slice(0, 6).map(({ by, at, base, table }) => (
          <li key={at}>
            {planRedesign(base, table)
              .slice(0, 4)
              .map((change, i) => (
                <span key={i} className="block">
                  {changeSentence(change, false)}
                </span>
              ))}
            <span className="quiet block">
              {by}, {when(at)}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

const YEARS = [1, 2, 3, 5, 6, 8, 10, 15, 20, 30, 50, 100];

/** For how long nobody may have its records erased, because they are about them. */
function DutySentence({ design: { table, editTable } }: { design: TableDesign }) {
  const { duty } = table;
  // Other numbers of years come by files and programs.
  const years = [...new Set([...YEARS, ...(duty === null ? [] : [duty.years])])].sort((a, b) => a - b);
  return (
    <Sentence>
      {duty === null ? speak`They may be erased` : speak`They must be kept for`}{' '}
      <Select
        label={speak`How long its records must be kept`}
        value={duty === null ? '' : String(duty.years)}
        choices={[
          { value: '', label: speak`whenever somebody asks` },
          ...years.map((n) => ({ value: String(n), label: yearsInWords(n) })),
        ]}
        onChange={(n) =>
          editTable((one) => ({
            ...one,
            duty: n === '' ? null : { years: Number(n), why: one.duty?.why ?? '' },
          }))
        }
      />
      {duty !== null && (
        <>
          {' '}
          {speakIn`because of ${(
            <Word
              label={speak`Which law or rule asks for it`}
              value={duty.why}
              placeholder={speak`which law or rule`}
              onChange={(why) => editTable((one) => ({ ...one, duty: one.duty && { ...one.duty, why } }))}
            />
          )}`}
        </>
      )}
    </Sentence>
  );
}
