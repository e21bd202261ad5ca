import { useContext } from 'react';
import type { LookupOptions } from '../../contract/sheet-from-server';
import { isRecord } from '../../core/expression/value';
import { recordKey } from '../../core/form/cells';
import { asRecord, type PickedRecord } from '../../core/form/picked-record';
import { Age } from '../kit/Age';
import { call, fetched } from '../kit/call';
import { Lookup, type Found } from '../kit/Lookup';
import { lookupAddress } from '../kit/way-in';
import { PickedCard } from '../kit/PickedCard';
import { AddMissing } from './add-missing';
import { givenFor } from './lookup-given';
import { pastedText, placeholderOf, type LookupControlProps } from './lookup-words';
import { controlId } from './sheet-model';
import { speak } from '../../core/wording/speak';
import { speakIn } from '../kit/speak-in';

/** Picks a record, by what the filter of the lookup lets through with the other answers as they are. */
export function LookupControl(props: LookupControlProps) {
  const { question, place, sheet, formId, submission, tables, onChange, bare = false } = props;
  const value = sheet.value(place);
  const picked = isRecord(value) ? value : null;
  const addMissing = useContext(AddMissing);
  const table = tables.get(question.table);
  const address = lookupAddress(formId, question.id);
  const given = givenFor(sheet, question, place.length === 3 ? [place[0], place[1]] : null);
  const search = async (q: string): Promise<Found<PickedRecord>> => {
    const { copied, ...found } = await fetched<LookupOptions>(`${address}/options`, { q, submission, given });
    return { ...found, ...(copied !== null && { note: <CopiedNote copied={copied} /> }) };
  };
  const pick = (option: PickedRecord | null) => {
    sheet.pick(place, question.table, option === null ? null : asRecord(option, tables.get(question.table)));
    onChange();
  };
  /** What was typed and left stays, to be fixed, unless it names one record and no other. */
  const name = async (words: string) => {
    sheet.set(place, words);
    onChange();
    const named = await call<{ records: (PickedRecord | null)[] }>('POST', `${address}/names`, {
      texts: [words],
      submission,
      given,
    }).catch(() => null);
    const record = named?.ok === true ? (named.value.records[0] ?? null) : null;
    if (record !== null && sheet.raw(place) === words) pick(record);
  };
  const added = async (id: string) => {
    const found = await fetched<LookupOptions>(`${address}/options`, { id, submission, given });
    pick(found.options[0] ?? null);
  };
  const box = (
    <Lookup
      id={controlId(place)}
      label={props.name}
      bare={bare}
      invalid={props.invalid}
      describedBy={props.describedBy}
      onBlur={props.onTouch}
      without={props.without}
      search={search}
      searchKey={['lookup', recordKey(formId, question.id), given]}
      picked={picked}
      typed={picked === null ? pastedText(sheet.raw(place)) : ''}
      placeholder={placeholderOf(props)}
      onPick={pick}
      onWords={(words) => void name(words)}
      onAdd={
        addMissing === null || table === undefined
          ? undefined
          : (words) => addMissing({ table, words, onAdded: (id) => void added(id) })
      }
    />
  );
  const facts = async () => {
    const found = await fetched<LookupOptions>(`${address}/options`, { id: picked?.id, submission, given });
    const [record] = found.options;
    return record === undefined ? null : { heads: found.heads, shown: record.shown };
  };
  return (
    <PickedCard title={picked?.title ?? null} cardKey={[formId, question.id, picked?.id]} load={facts}>
      {box}
    </PickedCard>
  );
}

function CopiedNote({ copied }: { copied: NonNullable<LookupOptions['copied']> }) {
  return (
    <>{speakIn`From ${copied.source}${
      copied.refreshedAt !== null && <>{speakIn`, as it was ${(<Age iso={copied.refreshedAt} />)}`}</>
    }${copied.failing && speak`; it does not answer now`}`}</>
  );
}
