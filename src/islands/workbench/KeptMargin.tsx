import { replaceQuestion } from '../../core/form/edit';
import { allQuestions, groupsOf, isField, type FieldQuestion } from '../../core/form/design';
import { askedAsKept, keptAnew, keptIn, namedAs } from '../../core/form/change/kept-in';
import { newShortId } from '../../core/kernel/ids';
import { tablesOf } from '../../core/storage/tables-of';
import { kinds } from '../../core/table/kinds/list';
import { columnWords } from '../../core/wording/change-sentence';
import { CircleAlert, Database } from '../kit/icons';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import { storeLines } from './store-lines';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

const NEW = 'new';

/** Where the answer in hand is kept: as a sentence to be changed. */
export function KeptMargin({
  bench,
  id,
  onPick,
}: {
  bench: Workbench;
  id: string;
  onPick: (id: string) => void;
}) {
  const { design, tables } = bench;
  const table = tablesOf(design).find(({ columns }) => columns.some((column) => column.id === id));
  const found = allQuestions(design).find((one) => one.id === id);
  const total = groupsOf(design)
    .flatMap(({ totals }) => totals)
    .find((one) => one.id === id);
  const column = table?.columns.find((one) => one.id === id);
  if (table === undefined || column === undefined) return null;
  const there = tables.get(table.id);
  const { columns } = storeLines(design, table, there);
  const holding = columns.find((one) => one.column.id === id);
  const question = found !== undefined && isField(found) ? found : null;
  const put = (where: string) => {
    const into = columns.find((one) => one.column.id === where)?.column;
    const fresh = newShortId();
    bench.edit((now) => (into === undefined ? keptAnew(now, id, fresh) : keptIn(now, id, into, newShortId)));
    onPick(into?.id ?? fresh);
  };
  const known = holding?.isNew === false ? holding.column : column;
  return (
    <section className="margin-part first">
      <h2 className="margin-title">
        <Database size={16} aria-hidden />
        <span className="font-mono text-lichen-deep">{bench.numbers.get(id)}</span>{' '}
        {question?.label ?? total?.label}
      </h2>
      {question !== null && (
        <Sentence>{speakIn`is kept in ${(
          <Select
            label={speak`Column it is kept in`}
            value={holding?.isNew === false ? id : NEW}
            choices={[
              { value: NEW, label: speak`a new column` },
              ...columns
                .filter(({ isNew }) => !isNew)
                .map(({ column: one, from }) => ({
                  value: one.id,
                  label:
                    from === null || one.id === id
                      ? one.label
                      : speak`${one.label}, which another answer fills`,
                })),
            ]}
            onChange={(where) => where !== (holding?.isNew === false ? id : NEW) && put(where)}
          />
        )} of ${table.label}`}</Sentence>
      )}
      {question !== null && (
        <Sentence>{speakIn`The column is called ${(
          <Word
            key={id}
            label={speak`What the column is called`}
            value={question.keptAs ?? question.label}
            onChange={(label) => bench.edit((now) => replaceQuestion(now, id, (one) => namedAs(one, label)))}
          />
        )}`}</Sentence>
      )}
      <p className="quiet">{speakIn`${(<code className="font-mono">{known.key}</code>)}: ${columnWords(known)}${known.target !== null && speak` of ${tables.get(known.target)?.label ?? '…'}`}, in PostgreSQL ${(
        <code className="font-mono">
          {kinds[known.kind].columnType(known)}
          {column.required && speak`, not null`}
        </code>
      )}`}</p>
      {holding?.isOther === true && question !== null && (
        <Mismatch bench={bench} question={question} put={put} />
      )}
    </section>
  );
}

/** What is asked is of another kind than its column: two ways out, each by one click. */
function Mismatch({
  bench,
  question,
  put,
}: {
  bench: Workbench;
  question: FieldQuestion;
  put: (where: string) => void;
}) {
  const column = [...bench.tables.values()]
    .flatMap(({ columns }) => columns)
    .find(({ id }) => id === question.id);
  if (column === undefined) return null;
  return (
    <div className="mt-2 rounded-md bg-rust-soft px-3 py-2 text-[14px]">
      <p className="flex gap-2 text-rust">
        <CircleAlert size={16} aria-hidden className="mt-0.5 shrink-0" />
        <span>{speakIn`The column holds ${columnWords(column)}${column.target !== null && speak` of ${bench.tables.get(column.target)?.label ?? speak`another table`}`}; that is not what is asked.`}</span>
      </p>
      <p className="mt-2 flex flex-wrap gap-2">
        <button
          type="button"
          className="button"
          onClick={() =>
            bench.edit((now) =>
              replaceQuestion(now, question.id, (one) =>
                isField(one) ? askedAsKept(one, column, bench.tables) : one,
              ),
            )
          }
        >{speak`Ask for ${columnWords(column)}`}</button>
        <button
          type="button"
          className="button"
          onClick={() => put(NEW)}
        >{speak`Keep it in a new column`}</button>
      </p>
    </div>
  );
}
