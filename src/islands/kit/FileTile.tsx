import type { ReactNode } from 'react';
import { useQuery } from '@tanstack/react-query';
import type { FileFacts } from '../../core/form/file';
import { call } from './call';
import { FileText } from './icons';
import { fileAddress, isOutside } from './way-in';
import { speak } from '../../core/wording/speak';

/** What is known of files, by id; those that whoever looks may not see are not among them. */
export function useFiles(ids: readonly string[]): ReadonlyMap<string, FileFacts> {
  const { data } = useQuery({
    queryKey: ['files', ids],
    enabled: ids.length > 0,
    staleTime: Infinity,
    queryFn: async () => {
      const found = await call<{ files: FileFacts[] }>('POST', fileAddress('about'), { ids });
      return found.ok ? found.value.files : [];
    },
  });
  return new Map((data ?? []).map((file) => [file.id, file]));
}

/** Bytes as people say them. */
export const sizeWords = (bytes: number): string =>
  bytes < 1_000
    ? speak`${bytes} bytes`
    : bytes < 1_000_000
      ? `${Math.round(bytes / 1_000)} kB`
      : `${(bytes / 1_000_000).toFixed(1)} MB`;

/** One file: a photo as a small picture, anything else by its name. It opens where it can be shown, else it is saved. */
export function FileTile({
  id,
  facts,
  children,
}: {
  id: string;
  facts: FileFacts | undefined;
  children?: ReactNode;
}) {
  const name = facts?.name ?? speak`File`;
  const title = facts === undefined ? undefined : `${name}, ${sizeWords(facts.size)}`;
  const shown = (
    <>
      {facts?.hasThumb === true && !isOutside() ? (
        <img
          src={`/api/files/${id}/thumb`}
          alt=""
          loading="lazy"
          className="h-24 w-full bg-slate-100 object-cover"
        />
      ) : (
        <span className="flex h-24 items-center justify-center bg-slate-100 text-slate-600">
          <FileText size={28} aria-hidden />
        </span>
      )}
      <span className="block truncate px-1.5 py-1 text-[12px] text-slate-700">{name}</span>
    </>
  );
  return (
    <li className="bg-sheet relative flex w-32 flex-col overflow-hidden rounded-md border border-slate-300">
      {/* Whoever has come by a link asks by headers, which an address alone does not send. */}
      {isOutside() ? (
        <span title={title}>{shown}</span>
      ) : (
        <a href={`/api/files/${id}`} target="_blank" rel="noreferrer" title={title} className="block">
          {shown}
        </a>
      )}
      {children}
    </li>
  );
}

/** Files to be looked at. */
export function FileTiles({ ids, name }: { ids: readonly string[]; name: string }) {
  const facts = useFiles(ids);
  return (
    <ul aria-label={name} className="flex flex-wrap items-start gap-2">
      {ids.map((id) => (
        <FileTile key={id} id={id} facts={facts.get(id)} />
      ))}
    </ul>
  );
}
