import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { read } from '../../core/expression/read';
import { toStored } from '../../core/expression/stored-text';
import type { LookupQuestion } from '../../core/form/design';
import { pickScope } from '../../core/form/lookup-filter';
import type { KeptView } from '../../core/record/view';
import { fetched } from '../kit/call';
import { Picks } from '../kit/CheckPicks';
import { ExpressionInput } from '../kit/ExpressionInput';
import { Select } from '../kit/Select';
import { Sentence } from '../kit/Sentence';
import { Several } from '../kit/Several';
import type { Workbench } from './use-workbench';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

interface Props {
  readonly bench: Workbench;
  readonly question: LookupQuestion;
  readonly change: (part: Partial<LookupQuestion>) => void;
}

/** From where a lookup picks, what it shows, and which records it offers. */
export function LookupSettings({ bench, question, change }: Props) {
  const table = bench.tables.get(question.table);
  const columns = (table?.columns ?? []).filter(({ kind }) => kind !== 'reference');
  return (
    <>
      <Sentence>{speakIn`Pick from ${(
        <Select
          label={speak`Table to pick from`}
          value={question.table || null}
          placeholder={speak`a table`}
          choices={bench.data.tables.map(({ id, label }) => ({ value: id, label }))}
          onChange={(id) => change({ table: id, show: [], where: undefined, misfit: undefined })}
        />
      )}`}</Sentence>
      {table !== undefined && (
        <>
          <Sentence>{speakIn`Show its name and ${(
            <Several
              label={speak`Columns shown`}
              values={question.show}
              none={speak`nothing more`}
              choices={columns.map(({ id, label }) => ({ value: id, label }))}
              onChange={(show) => change({ show })}
            />
          )}`}</Sentence>
          <Offered bench={bench} question={question} change={change} tableKey={table.key} />
          <p className="quiet mb-1.5">
            {speak`Everything shown is searched. Expressions may use ${columns
              .slice(0, 3)
              .map(({ key }) => `${question.key}.${key}`)
              .join(', ')}`}
            .
          </p>
        </>
      )}
    </>
  );
}

/** Which records: all, those a condition lets through, or what a view of the table shows now. */
function Offered({ bench, question, change, tableKey }: Props & { readonly tableKey: string }) {
  const scope = pickScope(bench.design, bench.tables, question, bench.group ?? undefined);
  const [refused, setRefused] = useState('');
  const { data } = useQuery({
    queryKey: ['views', tableKey],
    queryFn: () => fetched<{ views: readonly KeptView[] }>(`/api/tables/${tableKey}/views`),
  });
  const views = (data?.views ?? []).filter(({ design }) => design.where.trim() !== '');
  const choose = (value: string) => {
    const view = views.find(({ id }) => id === value);
    const where = view?.design.where ?? '';
    const isReadable = view === undefined || read(where, scope).ok;
    setRefused(
      isReadable
        ? ''
        : speak`“${view.label}” looks further than a lookup can; write its condition here instead.`,
    );
    if (isReadable)
      change(
        value === 'all'
          ? { where: undefined, misfit: undefined }
          : { where: view === undefined ? (question.where ?? '') : toStored(where, scope) },
      );
  };
  return (
    <>
      <Sentence>{speakIn`and offer ${(
        <Select
          label={speak`Which records are offered`}
          value={question.where === undefined ? 'all' : 'where'}
          choices={[
            { value: 'all', label: speak`all of them` },
            { value: 'where', label: speak`only those of which it is true that` },
            // A view may be changed by whoever keeps it; what a release offers must not.
            ...views.map(({ id, label }) => ({
              value: id,
              label: speak`those of the view “${label}”, as it is now`,
            })),
          ]}
          onChange={choose}
        />
      )}`}</Sentence>
      {refused !== '' && (
        <p role="alert" className="trouble">
          {refused}
        </p>
      )}
      {question.where !== undefined && (
        <>
          <Picks
            key={`picks-${question.id}-${question.where === ''}`}
            must={question.where}
            scope={scope}
            change={(where) => change({ where })}
            ownKey={[...scope.keys()][0] ?? ''}
            isDemand={false}
          />
          <ExpressionInput
            key={question.id}
            label={speak`Only records of which it is true that`}
            stored={question.where}
            scope={scope}
            example={`${[...scope.keys()][0] ?? 'section'} = …`}
            onChange={(where) => change({ where })}
          />
          <Sentence>{speakIn`A pick that fits no more ${(
            <Select
              label={speak`A pick that fits no more`}
              value={question.misfit ?? 'stay'}
              choices={[
                { value: 'stay', label: speak`stays, and is said to be wrong` },
                { value: 'clear', label: speak`is taken out, with a word` },
              ]}
              onChange={(value) => change({ misfit: value === 'clear' ? 'clear' : undefined })}
            />
          )}`}</Sentence>
        </>
      )}
    </>
  );
}
