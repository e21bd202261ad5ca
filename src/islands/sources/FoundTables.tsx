import { Check, Eye, GitCompareArrows, PenLine, TriangleAlert } from '../kit/icons';
import { useMemo, useState } from 'react';
import type { SourceData, SourceLook } from '../../contract/sources';
import { followingOf, type Following } from '../../core/link/follow';
import { foundName, type FoundTable } from '../../core/link/found-table';
import { notLinked, planLinks, type LinkPlan } from '../../core/link/plan-link';
import { columnWords } from '../../core/wording/change-sentence';
import {
  followingSentences,
  leftBehindSentence,
  linkedRights,
  notLinkedSentence,
} from '../../core/wording/source-sentence';
import { LinkButton, type LinkingNow } from './LinkButton';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly source: SourceData;
  readonly look: Extract<SourceLook, { t: 'tables' }>;
  readonly linking: LinkingNow;
  readonly everyPick: React.ReactNode;
}

/** The tables of another database: those that are linked, those that can be, and those that cannot, with the reason. */
export function FoundTables({ source, look, linking, everyPick }: Props) {
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [hand, setHand] = useState(() => look.found.map(foundName)[0] ?? null);
  const linked = new Map(source.linked.map((one) => [one.name, one]));
  const open = useMemo(
    () => chosen.filter((name) => !source.linked.some((one) => one.name === name)),
    [chosen, source.linked],
  );
  const plans = useMemo(
    () => plansOf(look, [...open, ...(hand === null || open.includes(hand) ? [] : [hand])]),
    [look, open, hand],
  );
  const changed = useMemo(
    () =>
      new Map(
        look.found.flatMap((table) => {
          const change = followingOf(table, look.linked, look.tables);
          return change === null ? [] : [[foundName(table), change] as const];
        }),
      ),
    [look],
  );
  const inHand = look.found.find((table) => foundName(table) === hand);
  const toggle = (name: string) =>
    setChosen(chosen.includes(name) ? chosen.filter((one) => one !== name) : [...chosen, name]);
  return (
    <div className="sheet-frame">
      <section aria-label={speak`Tables there`}>
        {look.found.length === 0 && (
          <p className="p-5">{speak`The user of this source may see no table there. Its administrator must grant it the right to read some.`}</p>
        )}
        <ol>
          {look.found.map((table, i) => {
            const name = foundName(table);
            const why = notLinked(table);
            const here = linked.get(name);
            return (
              <li
                key={name}
                className={`line items-start ${hand === name ? 'bg-lichen-soft shadow-[inset_4px_0_0_var(--color-lichen)]' : ''}`}
              >
                <span className="gutter">{i + 1}</span>
                <div className="flex items-start gap-3">
                  {here === undefined && why === null ? (
                    <input
                      type="checkbox"
                      aria-label={speak`Link ${name}`}
                      checked={open.includes(name)}
                      onChange={() => {
                        setHand(name);
                        toggle(name);
                      }}
                      className="mt-1 size-4 accent-lichen"
                    />
                  ) : (
                    <span className="w-4">
                      {here !== undefined && <Check size={16} aria-hidden className="mt-0.5 text-lichen" />}
                    </span>
                  )}
                  <div className="min-w-0 flex-1">
                    <button
                      type="button"
                      aria-pressed={hand === name}
                      onClick={() => setHand(name)}
                      className="rounded text-left font-semibold break-words hover:underline"
                    >
                      {table.name}
                    </button>{' '}
                    <span className="font-mono text-[13px] text-slate-600">{name}</span>
                    <p className="quiet">{speakIn`${table.columns.length} columns${table.records !== null && table.records > 0 && speak`, about ${table.records} records`}${table.isView && ', a view'}${table.comment !== '' && ` · ${table.comment}`}`}</p>
                    {here !== undefined && (
                      <p className="text-[14px]">
                        {speakIn`Linked as ${(
                          <a href={`/tables/${here.key}`} className="font-semibold text-lichen-deep">
                            {here.label}
                          </a>
                        )}`}
                        {changed.has(name) && (
                          <>
                            {' '}
                            · <span className="marked">{speak`it has changed there`}</span>
                          </>
                        )}
                      </p>
                    )}
                    {here === undefined && why !== null && (
                      <p className="flex gap-1.5 text-[14px] text-ochre">
                        <TriangleAlert size={15} aria-hidden className="mt-0.5 shrink-0" />
                        {notLinkedSentence()[why]}.
                      </p>
                    )}
                  </div>
                </div>
              </li>
            );
          })}
        </ol>
      </section>
      <aside id="margin" className="margin-pane" aria-label={speak`The table in hand`}>
        {open.length > 0 && (
          <div className="margin-part first">
            <LinkButton
              linking={linking}
              tables={open}
              words={open.length === 1 ? speak`Link this table` : speak`Link these ${open.length} tables`}
            >
              <p className="text-[14px]">{speakIn`${open.length === 1 ? speak`It is` : speak`They are`} copied now, and refreshed ${everyPick}`}</p>
            </LinkButton>
          </div>
        )}
        {inHand !== undefined && (
          <InHand
            source={source.label}
            table={inHand}
            plan={
              linked.has(hand ?? '') ? undefined : plans.find(({ mapping }) => foundName(mapping) === hand)
            }
            isLinked={linked.has(hand ?? '')}
            change={changed.get(hand ?? '') ?? null}
            linking={linking}
          />
        )}
      </aside>
    </div>
  );
}

/** As they would be if these were linked together; ids are made when they are. */
function plansOf({ found, linked, tables }: Props['look'], names: readonly string[]): LinkPlan[] {
  return planLinks(
    found.filter(
      (table) =>
        names.includes(foundName(table)) &&
        notLinked(table) === null &&
        !linked.some(({ mapping }) => foundName(mapping) === foundName(table)),
    ),
    linked,
    tables,
    (name) => name,
  );
}

interface InHandProps {
  readonly source: string;
  readonly table: FoundTable;
  readonly plan: LinkPlan | undefined;
  readonly isLinked: boolean;
  /** What has become of it there since it was linked. */
  readonly change: Following | null;
  readonly linking: LinkingNow;
}

/** A linked table that has changed there, and the button that takes that up. */
function Changed({
  source,
  table,
  change,
  linking,
}: {
  source: string;
  table: FoundTable;
  change: Following;
  linking: LinkingNow;
}) {
  return (
    <div className="margin-part first">
      <h2 className="margin-title">
        <GitCompareArrows size={16} aria-hidden />
        {speak`${table.name} has changed there`}
      </h2>
      <ul className="grid gap-1.5 text-[14px]">
        {followingSentences(change, source).map((one) => (
          <li key={one}>{one}.</li>
        ))}
      </ul>
      {!change.keyLost && change.changes.length + change.lost.length + (change.rights ? 1 : 0) > 0 && (
        <button
          type="button"
          className="button button-go mt-3 w-full"
          disabled={linking.busy}
          onClick={() => void linking.follow(foundName(table))}
        >
          {linking.busy ? speak`Taking it up …` : speak`Take it up here`}
        </button>
      )}
    </div>
  );
}

function InHand({ source, table, plan, isLinked, change, linking }: InHandProps) {
  if (isLinked && change !== null)
    return <Changed source={source} table={table} change={change} linking={linking} />;
  if (isLinked)
    return (
      <p className="margin-part quiet">{speak`${table.name} is linked already. Open it to see how fresh it is, to refresh it, or to end the link.`}</p>
    );
  if (plan === undefined)
    return <p className="margin-part quiet">{speak`${table.name} cannot be linked as it is.`}</p>;
  const { table: made, mapping, left } = plan;
  const Icon = mapping.adds || mapping.changes ? PenLine : Eye;
  return (
    <>
      <div className="margin-part first">
        <h2 className="margin-title">{speak`${made.label} here`}</h2>
        <p className="mb-2 font-mono text-[13px] text-slate-600">{speak`records.${made.key}`}</p>
        <dl className="grid grid-cols-[minmax(0,3fr)_minmax(0,2fr)] gap-x-3 gap-y-1 text-[14px]">
          {made.columns.map((column) => (
            <div key={column.id} className="contents">
              <dt className="min-w-0 break-words">
                {column.label}
                {mapping.by.includes(column.id) && <span className="quiet"> {speak`· known by it`}</span>}
                {column.personal !== null && <span className="text-plum"> {speak`· personal`}</span>}
              </dt>
              <dd className="text-slate-600">
                {column.kind === 'reference' ? speak`record of a linked table` : columnWords(column)}
              </dd>
            </div>
          ))}
        </dl>
      </div>
      <div className="margin-part">
        <h2 className="margin-title">
          <Icon size={16} aria-hidden />
          {speak`What may be done`}
        </h2>
        <p className="text-[14px]">
          {linkedRights({ source, adds: mapping.adds, changes: mapping.changes })}.
        </p>
      </div>
      {left.length > 0 && (
        <div className="margin-part">
          <h2 className="margin-title">
            <TriangleAlert size={16} aria-hidden className="text-ochre" />
            {speak`Not carried over as it is`}
          </h2>
          <ul className="grid gap-1 text-[14px]">
            {left.map((one, i) => (
              <li key={i}>{leftBehindSentence(one)}.</li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
