import type { Catalogue } from './catalogue';

/** Somebody without an account, who has come by a link to a form. */
export interface Visit {
  /** The person of the link: all who come by it go by that name. */
  readonly person: string;
  readonly form: string;
  /** Whether the form may be filled by it now; what was sent is followed all the same. */
  readonly fills: boolean;
  /** The one submission that is theirs, sent or about to be. */
  readonly submission: string;
}

/**
 * The catalogue as a visitor meets it: they fill one form, and may nothing else that anybody may. The
 * database holds the same (`slate.visit`, `slate.comes_by_link`).
 */
export function visiting(catalogue: Catalogue, { person, form, fills }: Visit): Catalogue {
  const mine = catalogue.people.get(person);
  const fill = {
    id: person,
    tableId: null,
    formId: form,
    action: 'fill' as const,
    role: null,
    groupId: null,
    personId: person,
    where: null,
    columns: null,
  };
  return {
    ...catalogue,
    people:
      mine === undefined
        ? catalogue.people
        : new Map([...catalogue.people, [person, { ...mine, ended: false }]]),
    grants: fills ? [fill] : [],
  };
}
