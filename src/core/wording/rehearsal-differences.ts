import type { Rehearsed, WrittenRecord } from '../form/rehearsed';
import { speak } from './speak';

/** What is different about how the same answers come out, in sentences; none where all is as before. */
export function rehearsalDifferences(before: Rehearsed, now: Rehearsed): string[] {
  return [...sendingWords(before, now), ...stepWords(before, now), ...recordWords(before, now)];
}

const issueKey = ({ path, sentence }: Rehearsed['issues'][number]): string =>
  `${String(path[0])} ${sentence}`;

function sendingWords(before: Rehearsed, now: Rehearsed): string[] {
  const [was, is] = [before, now].map(({ issues }) => new Set(issues.map(issueKey)));
  return [
    ...now.issues
      .filter((one) => was?.has(issueKey(one)) === false)
      .map(({ sentence }) => speak`Now: ${sentence}`),
    ...before.issues
      .filter((one) => is?.has(issueKey(one)) === false)
      .map(({ sentence }) => speak`No longer: ${sentence}`),
  ];
}

function stepWords(before: Rehearsed, now: Rehearsed): string[] {
  const words = ({ label, asked, skipped }: Rehearsed['steps'][number]): string =>
    `${label}: ${skipped === true ? speak`not asked` : asked.join(', ') || speak`nobody`}`;
  const [was, is] = [before, now].map(({ steps }) => steps.map(words).join('; ') || speak`nobody`);
  return was === is ? [] : [speak`Asked would be ${is}; before it was ${was}`];
}

/** Where the answers cannot be sent, nothing is written, which is said already. */
function recordWords(before: Rehearsed, now: Rehearsed): string[] {
  if (before.issues.length > 0 || now.issues.length > 0) return [];
  const [was, is] = [before, now].map(({ records }) => byPlace(records));
  const places = [...new Set([...(was?.keys() ?? []), ...(is?.keys() ?? [])])];
  return places.flatMap((place) => {
    const [a, b] = [was?.get(place), is?.get(place)];
    if (a === b) return [];
    if (b === undefined) return [speak`${place} would not be written any more; it was ${a || speak`empty`}`];
    return [
      speak`${place} would be ${b || speak`empty`}${a === undefined ? speak`, and was not written before` : speak`; it was ${a || speak`empty`}`}`,
    ];
  });
}

/** Each column of each record: treatment_lines 2, amount. */
function byPlace(records: readonly WrittenRecord[]): Map<string, string> {
  const counts = new Map<string, number>();
  return new Map(
    records.flatMap(({ key, what, cells }) => {
      const count = (counts.get(`${key} ${what}`) ?? 0) + 1;
      counts.set(`${key} ${what}`, count);
      return cells.map(
        (cell) => [`${key}${count === 1 ? '' : ` ${count}`}, ${cell.key},`, cell.after] as const,
      );
    }),
  );
}
