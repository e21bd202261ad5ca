import type { OutsideFacts } from '../../kernel/issue';
import type { Sentences } from './sentences';
import { words } from './words';

/** Of what stands outside a form and a table: choice lists, and sources with what is linked to them. */
export const outsideSentences: Sentences<OutsideFacts> = {
  'choice-held': ({ choice, where }) =>
    `“${words(choice)}” cannot be taken out: ${words(where)}. Retire it instead; then it stays where it stands and is offered no more`,
  'choice-not-in-list': ({ choices, list, label }) =>
    `${label} takes its choices from the list “${words(list)}”, which does not have ${words(choices)}. Add that to the list, or let the question take its choices from it`,
  'list-lacks': ({ choices, list, label }) =>
    `${label} may hold what the list “${words(list)}” does not have: ${words(choices)}. Add that to the list, or change the column in the design of its table first`,
  'list-label-taken': ({ list }) => `There is already a choice list called “${words(list)}”`,
  'list-used': ({ where }) => `The list cannot be removed, for it is used by ${words(where)}`,
  'linked-structure': ({ source, label }) =>
    `${label} is as ${words(source)} has it; here it can be named, described and moved, and no more`,
  'linked-required': ({ source, label }) =>
    `${label} must be given in ${words(source)}, so the form must ask for it`,
  'linked-no-adding': ({ source, table }) =>
    `Records of ${words(table)} cannot be added from here: ${words(source)} does not allow it`,
  'source-silent': ({ source }) =>
    `The source ${words(source)} does not answer, so nothing was kept. Try again in a moment`,
  'source-refused': ({ rule, source }) =>
    `The source ${words(source)} refuses this${rule ? ` by its rule ${words(rule)}` : ''}, so nothing was kept`,
  'source-changed': ({ source, table }) =>
    `A record was changed in ${words(source)} meanwhile. Refresh the table ${words(table)}, and try again`,
  'source-fixed': ({ source, table }) =>
    `${words(table)} cannot be changed like this from here: ${words(source)} does not allow it`,
  'source-failed': ({ source, why }) => `The source ${words(source)} cannot be read: ${words(why)}`,
  'source-used': ({ tables }) => `Tables come from it, so end their links first: ${words(tables)}`,
  'address-inside': () =>
    'This is on this machine or its own network. Whoever runs the machine may name it in SLATE_SOURCES_INSIDE',
  'address-invalid': () => 'Give the whole address, beginning with http:// or https://',
  'secret-missing': () => 'Give its password',
  'not-linkable': ({ table, why }) => `The table ${words(table)} stays outside. ${words(why)}`,
};
