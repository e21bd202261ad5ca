import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import type { OneRecordData, RecordPageData } from '../../contract/answers-from-server';
import { fetched } from '../kit/call';
import { ArrowDown, ArrowUp, PencilLine, Trash2 } from '../kit/icons';
import { useLive } from '../kit/live';
import { Root } from '../kit/Root';
import Toasts from '../kit/Toasts';
import { ByForm } from './ByForm';
import { formAddress } from './form-address';
import { LookOver } from './LookOver';
import { nameOf, titleOf } from './record-cells';
import { recordEdits } from './record-edits';
import { topicsOf } from './topics';
import { RecordFields } from './RecordFields';
import { RecordHistory } from './RecordHistory';
import { RelatedGrid } from './RelatedGrid';
import { StagedBar } from './StagedBar';
import { useLookOver } from './use-look-over';
import { useStaged } from './use-staged';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly initial: RecordPageData;
}

export default function RecordPageView(props: Props) {
  return (
    <Root>
      <RecordPage {...props} />
      <Toasts />
    </Root>
  );
}

/**
 * A record at its own address: its columns, what is related to it, and what happened to it. All of it is
 * edited in place, and saved together.
 */
function RecordPage({ initial }: Props) {
  const { table, related } = initial;
  const { id } = initial.one.record;
  const [changes, setChanges] = useState(0);
  const queries = useQueryClient();
  const { data, isError } = useQuery({
    queryKey: ['record', table.key, id],
    queryFn: () => fetched<OneRecordData>(`/api/tables/${table.key}/records/${id}`),
    initialData: initial.one,
  });
  const refresh = useCallback(() => {
    void queries.invalidateQueries({ queryKey: ['record', table.key] });
    setChanges((n) => n + 1);
  }, [queries, table.key]);
  useLive(topicsOf(initial), refresh);
  const edits = useStaged(initial, refresh);
  const { isLookedOver, setLookedOver, save } = useLookOver(edits);
  const { record } = data;
  const { onRemove, onRestore } = recordEdits(initial, edits);
  return (
    <>
      <Head data={initial} one={data} onRemove={onRemove} />
      {isError && (
        <p
          role="alert"
          className="trouble mb-2"
        >{speak`This record is not there any more. What you see is how it was; what was removed lies in the bin.`}</p>
      )}
      <div className="sheet-frame">
        <div className="flex min-w-0 flex-col">
          <div className="flex-1">
            {isLookedOver ? (
              <LookOver
                table={table}
                edits={edits}
                back={speak`Back to the record`}
                onBack={() => setLookedOver(false)}
              />
            ) : (
              <>
                <RecordFields work={initial} record={record} edits={edits} />
                {related.map((one) => (
                  <RelatedGrid
                    key={`${one.table.id} ${one.via}`}
                    work={initial}
                    related={one}
                    record={{ id, name: nameOf(table, record), row: record }}
                    edits={edits}
                    changes={changes}
                  />
                ))}
              </>
            )}
          </div>
          <StagedBar
            edits={edits}
            isLookedOver={isLookedOver}
            onLookOver={() => setLookedOver(true)}
            onSave={() => void save()}
            onTrouble={() => setLookedOver(true)}
          />
        </div>
        <aside id="margin" className="margin-pane" aria-label={speak`What is known about it`}>
          {initial.forms.length > 0 && (
            <section className="margin-part first" aria-label={speak`Forms`}>
              <ByForm forms={initial.forms} number={record.number} />
            </section>
          )}
          <RecordHistory data={data} {...(onRestore !== undefined && { onRestore })} />
        </aside>
      </div>
    </>
  );
}

interface HeadProps {
  readonly data: RecordPageData;
  readonly one: OneRecordData;
  readonly onRemove: ((record: OneRecordData['record']) => void) | undefined;
}

function Head({ data: { table, owner, beside, query, forms }, one: { record }, onRemove }: HeadProps) {
  const title = titleOf(table, record);
  const beyond = (number: string) => `/tables/${table.key}/${encodeURIComponent(number)}?${query}`;
  return (
    <div className="flex flex-wrap items-end justify-between gap-3 pt-3.5 pb-2">
      <div className="min-w-0">
        <p className="quiet">
          <a href="/tables" className="crumb">{speak`Tables`}</a> ›{' '}
          <a href={`/tables/${table.key}?${query}&record=${record.id}`} className="crumb">
            {table.label}
          </a>
          {owner !== null && (
            <>
              {' '}
              {speakIn`› row of ${(
                <a
                  href={`/tables/${owner.table.key}/${encodeURIComponent(owner.record.number)}`}
                  className="crumb"
                >
                  {nameOf(owner.table, owner.record)}
                </a>
              )}`}
            </>
          )}
        </p>
        <h1 className="text-[23px] break-words">
          <span className="font-mono text-[20px]">{record.number}</span>
          {title !== '' && ` ${title}`}
        </h1>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        {beside.before !== null && (
          <a href={beyond(beside.before)} className="button" rel="prev">
            <ArrowUp size={15} aria-hidden />
            {speak`Previous`}
          </a>
        )}
        {beside.after !== null && (
          <a href={beyond(beside.after)} className="button" rel="next">
            {speak`Next`}
            <ArrowDown size={15} aria-hidden />
          </a>
        )}
        {forms
          .filter(({ mayChange }) => mayChange)
          .map(({ key, title }) => (
            <a key={key} href={formAddress(key, record.number, true)} className="button">
              <PencilLine size={15} aria-hidden />
              {speak`Change with ${title}`}
            </a>
          ))}
        {onRemove !== undefined && (
          <button type="button" className="button button-stop" onClick={() => onRemove(record)}>
            <Trash2 size={15} aria-hidden />
            {speak`Remove`}
          </button>
        )}
      </div>
    </div>
  );
}
