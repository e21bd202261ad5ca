import {
  isAmongRecords,
  type Check,
  type ExistingCheck,
  type Period,
  type TableCheck,
} from '../../core/check/check';
import { periodWords } from '../../core/check/existing';
import { changeCheck, dropCheck } from '../../core/table/edit';
import type { CheckImpact } from '../../core/table/table-change';
import { issueSentence } from '../../core/wording/issue-sentence';
import { digits } from '../../core/wording/numbers';
import { Otherwise, Picks } from '../kit/CheckPicks';
import { ExpressionInput } from '../kit/ExpressionInput';
import { Trash2 } from '../kit/icons';
import { Select } from '../kit/Select';
import { NumberWord, Sentence } from '../kit/Sentence';
import { Several } from '../kit/Several';
import { useImpact, type TableDesign } from './use-table-design';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props<C extends TableCheck = TableCheck> {
  readonly design: TableDesign;
  readonly check: C;
}

/** One check of the table, in hand. */
export function CheckMargin({ design, check }: Props) {
  const column = design.table.columns.find(({ id }) => id === check.on);
  const change = (part: Partial<TableCheck>) => design.editTable((one) => changeCheck(one, check.id, part));
  const { impact } = useImpact(design);
  const meets = impact?.checks.find((one) => one.check === check.id);
  const issues = design.issuesAt('checks', check.id);
  return (
    <>
      <section className="margin-part first" aria-label={speak`The check`}>
        <h2 className="margin-title text-ink!">{speak`Check on ${column?.label ?? speak`a column that is gone`}`}</h2>
        <Sentence>{speakIn`It looks at ${(
          <Select
            label={speak`What it looks at`}
            value={isAmongRecords(check) ? 'among' : 'one'}
            choices={[
              { value: 'one', label: speak`each record by itself` },
              { value: 'among', label: speak`all records together` },
            ]}
            onChange={(value) => design.editTable((one) => changeCheck(one, check.id, asKind(check, value)))}
          />
        )}`}</Sentence>
        {isAmongRecords(check) ? (
          <Among design={design} check={check} />
        ) : (
          <Condition design={design} check={check} />
        )}
        <textarea
          aria-label={speak`Message`}
          rows={2}
          className="box"
          placeholder={speak`Above the label’s top rate.`}
          value={check.message}
          onChange={(event) => change({ message: event.target.value })}
        />
        <div aria-live="polite">
          {issues.slice(0, 2).map((issue, i) => (
            <p key={i} className="trouble">
              {issueSentence(issue)}
            </p>
          ))}
        </div>
        <p className="quiet mt-2" role="status">
          {meets === undefined || issues.length > 0 ? '' : meetsWords(meets, impact?.records ?? 0)}
        </p>
        {!isAmongRecords(check) && (
          <>
            <p className="mt-3 mb-1 text-[14px]">{speak`As an expression`}</p>
            <ExpressionInput
              label={speak`Condition as an expression`}
              example="rate &lt;= top_rate"
              stored={check.must}
              scope={design.scope}
              onChange={(must) => change({ must })}
            />
          </>
        )}
      </section>
      <section className="margin-part">
        <button
          type="button"
          className="button button-stop"
          onClick={() => {
            design.select(null);
            design.editTable((one) => dropCheck(one, check.id));
          }}
        >
          <Trash2 size={15} aria-hidden />
          {speak`Take it out`}
        </button>
      </section>
    </>
  );
}

/** A check that looks at the other kind keeps its place and its words. */
function asKind({ id, on, message }: TableCheck, kind: string): TableCheck {
  return kind === 'among'
    ? { id, on, message, same: [on], rule: { t: 'unique' } }
    : { id, on, message, must: '', otherwise: 'stop' };
}

function Condition({ design, check }: Props<Check>) {
  const change = (part: Partial<Check>) => design.editTable((one) => changeCheck(one, check.id, part));
  return (
    <>
      <Picks
        must={check.must}
        scope={design.scope}
        change={(must) => change({ must })}
        ownKey={design.table.columns.find(({ id }) => id === check.on)?.key ?? ''}
      />
      <Otherwise check={check} change={change} />
    </>
  );
}

function Among({ design, check }: Props<ExistingCheck>) {
  const { columns } = design.table;
  const change = (part: Partial<ExistingCheck>) =>
    design.editTable((one) => changeCheck(one, check.id, part));
  const days = columns.filter(({ kind }) => kind === 'date').map(({ id, label }) => ({ value: id, label }));
  const [first = ''] = days.map(({ value }) => value);
  const { rule } = check;
  const rules: Record<string, ExistingCheck['rule']> = {
    unique: { t: 'unique' },
    'at-most': { t: 'at-most', most: 1, per: 'ever', date: null },
    'no-overlap': { t: 'no-overlap', from: first, to: days[1]?.value ?? first },
  };
  const day = (label: string, value: string | null, onChange: (id: string) => void) => (
    <Select
      label={label}
      value={value === '' ? null : value}
      placeholder={speak`a date`}
      choices={days}
      onChange={onChange}
    />
  );
  return (
    <>
      <Sentence>{speakIn`Among them ${(
        <Select
          label={speak`What must hold among them`}
          value={rule.t}
          choices={[
            { value: 'unique', label: speak`no two are the same` },
            { value: 'at-most', label: speak`there are at most so many` },
            ...(days.length > 0 ? [{ value: 'no-overlap', label: speak`no two overlap in their days` }] : []),
          ]}
          onChange={(value) => change({ rule: rules[value] ?? rule })}
        />
      )}`}</Sentence>
      {rule.t === 'at-most' && (
        <Sentence>
          {speakIn`at most ${(
            <NumberWord
              label={speak`At most`}
              value={rule.most}
              least={0}
              most={1_000_000}
              onChange={(most) => change({ rule: { ...rule, most } })}
            />
          )} ${(
            <Select
              label={speak`In which time`}
              value={rule.per}
              choices={Object.entries(periodWords())
                .filter(([value]) => value === 'ever' || days.length > 0)
                .map(([value, label]) => ({ value, label }))}
              onChange={(per) =>
                change({
                  rule: { ...rule, per: per as Period, date: per === 'ever' ? null : (rule.date ?? first) },
                })
              }
            />
          )}`}
          {rule.per !== 'ever' && (
            <>
              {' '}
              {speakIn`by ${day(speak`Counted by which date`, rule.date, (date) => change({ rule: { ...rule, date } }))}`}
            </>
          )}
        </Sentence>
      )}
      {rule.t === 'no-overlap' && (
        <Sentence>{speakIn`from ${day(speak`First day`, rule.from, (from) => change({ rule: { ...rule, from } }))} to ${day(speak`Last day`, rule.to, (to) => change({ rule: { ...rule, to } }))}`}</Sentence>
      )}
      <Sentence>{speakIn`with the same ${(
        <Several
          label={speak`Columns that must be the same`}
          values={check.same}
          none={rule.t === 'unique' ? speak`columns` : speak`anything`}
          choices={columns.map(({ id, label }) => ({ value: id, label }))}
          joined={speak` and `}
          onChange={(same) => change({ same })}
        />
      )}`}</Sentence>
      <Sentence>{speak`otherwise stop and say`}</Sentence>
    </>
  );
}

/** What a check says of the records there are, and who holds it. */
export function meetsWords({ broken, examples, isHeld }: CheckImpact, records: number): string {
  if (broken === null) return speak`What records there are say to it is known once its columns are there.`;
  if (records === 0) return speak`The table holds no records yet.`;
  if (broken === 0)
    return speak`All ${digits(records)} records fulfil it${isHeld ? speak`, and the database itself will hold it` : ''}.`;
  return speak`${digits(broken)} of ${digits(records)} records do not fulfil it: ${examples.join(', ')}${broken > examples.length ? ' …' : '.'} They stay as they are until somebody changes what it reads.`;
}
