import { ArrowRight, Check, X } from '../kit/icons';
import { type SheetDecision } from '../../core/import/decisions';
import type { DetectedRelation, DetectedSheet } from '../../core/import/detection';
import { sheetLabel } from '../../core/import/heading';
import { takesWordsForNothing } from '../../core/import/import-plan';
import { intoTable, likelyTables } from '../../core/import/into-table';
import { answered, isAccepted, proposalsOf, type Proposal } from '../../core/import/proposals';
import { mayAdd, neededBesides, relationId } from '../../core/import/references';
import {
  declinedSentence,
  missesSentence,
  needsMore,
  proposalSentence,
} from '../../core/wording/proposal-sentence';
import { Select } from '../kit/Select';
import { Sentence, Word } from '../kit/Sentence';
import { IntoSettings } from './IntoSettings';
import type { Importing } from './use-import';
import { PlannedGrid } from './PlannedGrid';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly importing: Importing;
  /** The column in hand, as `Sheet/Column`. */
  readonly picked: string | null;
  readonly pick: (path: string | null) => void;
}

/** The tables that would come of it, with first rows in them; beneath each sheet's own, what was found about it. */
export function PlannedTables({ importing, picked, pick }: Props) {
  const {
    plan,
    data: { detection },
  } = importing;
  if (detection === null) return null;
  return (
    <div>
      {detection.sheets.map((sheet, i) => {
        const tables = plan.tables.filter((one) => one.sheet === sheet.name);
        const ordered = [
          ...tables.filter(({ rows }) => rows.t === 'each'),
          ...tables.filter(({ rows }) => rows.t !== 'each'),
        ];
        return (
          <section
            key={sheet.name}
            className="border-b border-slate-300"
            aria-label={speak`The sheet ${sheet.name}`}
          >
            <div className="line border-b-0 pb-1">
              <span className="gutter">{i + 1}</span>
              <SheetHead importing={importing} sheet={sheet} left={tables.length === 0} />
            </div>
            <ul>
              {proposalsOf(detection, sheet, importing.decisions).map((proposal) => {
                const words =
                  proposal.t === 'words' ? takesWordsForNothing(plan, sheet, proposal.column) : null;
                const shown =
                  proposal.t === 'words'
                    ? words !== null
                    : tables.some(({ into }) => into === null || proposal.t === 'totals');
                return (
                  shown && (
                    <ProposalLine
                      key={proposal.id}
                      importing={importing}
                      proposal={proposal}
                      accepted={words ?? isAccepted(importing.decisions, proposal)}
                    />
                  )
                );
              })}
            </ul>
            {ordered.map((one) => (
              <PlannedGrid
                key={one.table.id}
                importing={importing}
                planned={one}
                sheet={sheet}
                picked={picked}
                pick={pick}
              />
            ))}
          </section>
        );
      })}
    </div>
  );
}

function SheetHead({
  importing: { decisions, decide, data, headings, busy },
  sheet,
  left,
}: {
  importing: Importing;
  sheet: DetectedSheet;
  left: boolean;
}) {
  const decided = decisions.sheets[sheet.name];
  const change = (part: SheetDecision | { into: undefined }) =>
    decide((before) => ({
      ...before,
      sheets: { ...before.sheets, [sheet.name]: withoutNothing({ ...before.sheets[sheet.name], ...part }) },
    }));
  const bring = (id: string) => {
    const table = data.tables.find((one) => one.id === id);
    change({ into: table === undefined ? undefined : intoTable(sheet, table) });
  };
  const [likely] = likelyTables(sheet, data.tables);
  const choices = [
    { value: 'new', label: speak`a new table` },
    ...data.tables
      .filter(({ parent }) => parent === null)
      .map(({ id, label }) => ({ value: id, label: speak`your table ${label}` })),
  ];
  return (
    <div className="grid gap-1.5">
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
        <h2 className="text-[17px]">{sheet.name}</h2>
        {left ? (
          <span className="quiet">{speak`is left out`}</span>
        ) : (
          <>
            <ArrowRight size={14} aria-hidden className="text-slate-500" />
            <Select
              label={speak`Where ${sheet.name} goes`}
              value={decided?.into?.table ?? 'new'}
              choices={choices}
              onChange={bring}
            />
            {decided?.into === undefined && (
              <Word
                label={speak`Name of the table made of ${sheet.name}`}
                value={decided?.label ?? sheetLabel(sheet.name)}
                onChange={(label) => change(label.trim() === '' ? {} : { label })}
              />
            )}
          </>
        )}
        <button type="button" className="button-plain ml-auto" onClick={() => change({ leaveOut: !left })}>
          {left ? speak`Take it after all` : speak`Leave it out`}
        </button>
      </div>
      {!left && (
        <Sentence>{speakIn`Its headings stand in ${(
          <Select
            label={speak`Where the headings of ${sheet.name} stand`}
            value={String(sheet.headerRow ?? 0)}
            disabled={busy}
            choices={headingChoices(sheet)}
            onChange={(row) => void headings(sheet.name, Number(row))}
          />
        )}`}</Sentence>
      )}
      {!left && decided?.into === undefined && likely !== undefined && (
        <p className="flex flex-wrap items-center gap-x-2 text-[14px]">
          <span className="marked">
            {speak`${likely.matched} of ${sheet.columns.length} headings are columns of your table ${likely.table.label}`}
            .
          </span>
          <button
            type="button"
            className="button-plain py-0!"
            onClick={() => bring(likely.table.id)}
          >{speak`Bring the rows into it`}</button>
        </p>
      )}
      {!left && decided?.into !== undefined && (
        <IntoSettings
          sheet={sheet}
          into={decided.into}
          tables={data.tables}
          change={(into) => change({ into })}
        />
      )}
    </div>
  );
}

/** Rows that may hold the headings, known by how they begin. */
const headingChoices = ({ top = [], headerRow }: DetectedSheet) => [
  ...top.map(({ row, text }) => ({ value: String(row), label: speak`row ${row}: ${text}` })),
  ...(headerRow === null || top.some(({ row }) => row === headerRow)
    ? []
    : [{ value: String(headerRow), label: speak`row ${headerRow}` }]),
  { value: '0', label: speak`no row: it has none` },
];

const withoutNothing = (decision: SheetDecision | { into: undefined }): SheetDecision =>
  Object.fromEntries(Object.entries(decision).filter(([, value]) => value !== undefined));

/** One proposal with its answer; a declined one says what happens instead. */
function ProposalLine({
  importing,
  proposal,
  accepted,
}: {
  importing: Importing;
  proposal: Proposal;
  accepted: boolean;
}) {
  const { decide, plan } = importing;
  const declined = !accepted;
  const toggle = () => decide((before) => answered(before, proposal, declined));
  const made =
    plan.tables.find(
      ({ sheet, rows }) =>
        sheet === proposal.sheet && rows.t === (proposal.t === 'group' ? speak`distinct` : speak`numbered`),
    )?.table.label ?? 'it';
  return (
    <li className="grid grid-cols-[46px_minmax(0,1fr)_auto] items-start py-1 pr-5 text-[14px] max-sm:grid-cols-[34px_minmax(0,1fr)_auto]">
      {declined ? (
        <X size={15} aria-hidden className="mt-0.5 mr-3 ml-auto text-slate-500" />
      ) : (
        <Check size={15} aria-hidden className="mt-0.5 mr-3 ml-auto text-lichen" />
      )}
      <span className={declined ? 'text-slate-600' : ''}>
        {proposal.t === 'together' ? (
          <>
            {proposalSentence(proposal, made)}.{' '}
            {declined
              ? declinedSentence(proposal)
              : speak`It is kept so: a record that would share them is refused`}
          </>
        ) : declined ? (
          <>
            <s>{proposalSentence(proposal, made)}</s>. {declinedSentence(proposal)}
          </>
        ) : (
          proposalSentence(proposal, made)
        )}
        .
      </span>
      <button type="button" className="button-plain ml-3 py-0!" aria-pressed={declined} onClick={toggle}>
        {proposal.t === 'together'
          ? declined
            ? speak`Keep it so`
            : speak`Let it be`
          : declined
            ? speak`Accept it`
            : speak`Decline`}
      </button>
      {proposal.t === 'relation' && proposal.relation.missed > 0 && !declined && (
        <div className="col-start-2">
          <Misses importing={importing} relation={proposal.relation} />
        </div>
      )}
    </li>
  );
}

/** What a column names that is not there, and what becomes of it. */
function Misses({
  importing: { decisions, decide, plan, data },
  relation,
}: {
  importing: Importing;
  relation: DetectedRelation;
}) {
  const id = relationId(relation);
  const adds = decisions.adds?.includes(id) === true;
  const named =
    relation.table === null
      ? plan.tables.find(
          ({ sheet, rows, into }) => sheet === relation.to.sheet && rows.t === 'each' && into === null,
        )?.table.label
      : data.tables.find(({ id }) => id === relation.table?.id)?.label;
  const needed = neededBesides(relation, data.tables);
  const choices = [
    { value: 'refuse', label: speak`Rows that name them are refused` },
    ...(named !== undefined && mayAdd(relation, data.tables)
      ? [{ value: 'add', label: speak`${named} gets a record for each` }]
      : []),
  ];
  const change = (value: string) =>
    decide((before) => ({
      ...before,
      adds: [...(before.adds ?? []).filter((one) => one !== id), ...(value === 'add' ? [id] : [])],
    }));
  return (
    <Sentence>
      <span className={adds ? '' : 'marked'}>{missesSentence(relation)}.</span>
      {choices.length === 1 ? (
        <span>
          {choices[0]?.label}
          {needed.length > 0 && `, ${needsMore(named ?? speak`that table`, needed)}`}.
        </span>
      ) : (
        <Select
          label={speak`What becomes of what ${relation.from.column} names and is not there`}
          value={adds ? 'add' : 'refuse'}
          choices={choices}
          onChange={change}
        />
      )}
    </Sentence>
  );
}
