import { digits } from '../../core/wording/numbers';
import { useQuery } from '@tanstack/react-query';
import type { CheckImpact } from '../../contract/answers-from-server';
import type { Check } from '../../core/check/check';
import { call } from '../kit/call';
import { useSettled } from './use-settled';
import { speak } from '../../core/wording/speak';

/** After the last letter, so that a condition half typed is not held against every record. */
const ASK_AFTER_MS = 700;

/** What the check in hand would say of the records kept so far. Silent while it cannot be read. */
export function Impact({
  formId,
  check,
  sound,
  what,
  address,
}: {
  formId: string;
  check: Check;
  sound: boolean;
  what: 'records' | 'rows';
  /** Where those that break it are shown; null where that cannot be said. */
  address: string | null;
}) {
  const must = useSettled(check.must, ASK_AFTER_MS);
  const { data } = useQuery({
    queryKey: ['impact', formId, check.on, must],
    enabled: sound && must !== '',
    staleTime: 60_000,
    retry: false,
    queryFn: async () => {
      const result = await call<CheckImpact>('POST', `/api/forms/${formId}/impact`, { must, on: check.on });
      return result.ok ? result.value : null;
    },
  });
  const broken = data?.t === 'counted' && sound ? data.broken : 0;
  return (
    <>
      <p className="quiet mt-2" role="status">
        {data == null || !sound ? '' : impactWords(data, what)}
      </p>
      {broken > 0 && address !== null && (
        <p className="text-[14px]">
          <a
            href={address}
          >{speak`See ${broken === 1 ? speak`the one ${what === 'rows' ? speak`row` : speak`record`}` : speak`the ${digits(broken)} ${what}`}`}</a>
        </p>
      )}
    </>
  );
}

function impactWords(impact: CheckImpact, what: string): string {
  if (impact.t !== 'counted')
    return impact.t === 'unknown'
      ? speak`The ${what} kept so far cannot be held against this.`
      : speak`Holding it against all ${what} kept so far would take too long.`;
  const { records, broken, examples } = impact;
  if (records === 0) return speak`Nothing has been kept yet that it could be held against.`;
  if (broken === 0) return speak`All ${digits(records)} ${what} kept so far fulfil it.`;
  return speak`${digits(broken)} of ${digits(records)} ${what} kept so far do not fulfil it: ${examples.join(', ')}${broken > examples.length ? ' …' : '.'} They stay as they are.`;
}
