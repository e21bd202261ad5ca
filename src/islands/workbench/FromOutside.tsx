import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { OutsideData } from '../../contract/outside';
import { speak } from '../../core/wording/speak';
import { call, fetched, troubleInFull } from '../kit/call';
import { Globe, Link2 } from '../kit/icons';
import type { AskOutside } from './ask-outside';
import { LinkLine, NewLink } from './OutsideLinks';
import { Mails, Shows, Speaks, Words } from './OutsideSays';

/** By which links people without an account fill the form, and what it says and shows to them. It holds at once, without a release. */
export function FromOutside({ form }: { form: string }) {
  const path = `/api/forms/${form}`;
  const key = ['outside', form];
  const queries = useQueryClient();
  const { data } = useQuery({ queryKey: key, queryFn: () => fetched<OutsideData>(`${path}/outside`) });
  const [said, setSaid] = useState('');
  /** False where it was refused; then the reason stands beside. */
  const ask: AskOutside = async (method, at, body, done) => {
    const result = await call<OutsideData>(method, `${path}/${at}`, body).catch(() => null);
    if (result?.ok === true) queries.setQueryData(key, result.value);
    setSaid(
      result === null
        ? speak`The server cannot be reached; this is not saved.`
        : result.ok
          ? done
          : troubleInFull(result.error),
    );
    return result?.ok === true;
  };
  return (
    <section className="margin-part" aria-labelledby="from-outside">
      <h2 id="from-outside" className="margin-title">
        <Globe size={16} aria-hidden />
        {speak`People outside`}
      </h2>
      {data !== undefined && <Outside data={data} ask={ask} />}
      <p role="status" className="quiet">
        {said}
      </p>
    </section>
  );
}

function Outside({ data, ask }: { data: OutsideData; ask: AskOutside }) {
  const [making, setMaking] = useState(false);
  const open = data.links.filter(({ state }) => state === 'open');
  if (!data.isLive)
    return (
      <p className="quiet">{speak`Once it is released, people without an account can fill it by a link.`}</p>
    );
  const closed = data.shows.filter(({ id }) => !data.lookups.includes(id));
  return (
    <>
      <p className="mb-2 text-[14px]">
        {open.length === 0
          ? speak`Nobody without an account can fill it.`
          : closed.length > 0
            ? speak`Nobody outside gets in just now: first say below what they may look up.`
            : speak`Anybody who has ${open.length === 1 ? speak`this link` : speak`one of these links`} can fill it, and nothing else.`}
      </p>
      <ul className="grid gap-2">
        {data.links.map((link) => (
          <LinkLine key={link.id} link={link} ask={ask} />
        ))}
      </ul>
      {making ? (
        <NewLink ask={ask} close={() => setMaking(false)} />
      ) : (
        <button type="button" className="button mt-2" onClick={() => setMaking(true)}>
          <Link2 size={15} aria-hidden />
          {speak`Make a link`}
        </button>
      )}
      {(data.links.length > 0 || data.version > 0) && (
        <>
          <Shows data={data} ask={ask} />
          <Mails data={data} ask={ask} />
          <Speaks data={data} ask={ask} />
          <Words key={data.version} data={data} ask={ask} />
        </>
      )}
    </>
  );
}
