import type { Catalogue } from '../../core/catalogue/catalogue';
import type { AddressRow, EventsWanted } from '../../data/system/events';
import { allSeen } from './what-happened';

/** What an address is told: of what it names, what its person sees by now. */
export function wantedBy(
  catalogue: Catalogue,
  { personId, tableIds, formIds, kinds }: Pick<AddressRow, 'personId' | 'tableIds' | 'formIds' | 'kinds'>,
): EventsWanted {
  const { tables, forms } = allSeen(catalogue, personId);
  return {
    tables: tables.filter((id) => tableIds.includes(id)),
    forms: forms.filter((id) => formIds.includes(id)),
    kinds,
  };
}
