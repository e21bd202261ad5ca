import type { OutsideFacts } from '../../kernel/issue';
import type { Sentences } from './sentences';
import { words } from './words';
import { speak } from '../speak';

/** Of what stands outside a form and a table: choice lists, and sources with what is linked to them. */
export const outsideSentences: Sentences<OutsideFacts> = {
  'choice-held': ({ choice, where }) =>
    speak`“${words(choice)}” cannot be taken out: ${words(where)}. Retire it instead; then it stays where it stands and is offered no more`,
  'choice-not-in-list': ({ choices, list, label }) =>
    speak`${label} takes its choices from the list “${words(list)}”, which does not have ${words(choices)}. Add that to the list, or let the question take its choices from it`,
  'list-lacks': ({ choices, list, label }) =>
    speak`${label} may hold what the list “${words(list)}” does not have: ${words(choices)}. Add that to the list, or change the column in the design of its table first`,
  'list-label-taken': ({ list }) => speak`There is already a choice list called “${words(list)}”`,
  'list-used': ({ where }) => speak`The list cannot be removed, for it is used by ${words(where)}`,
  'linked-structure': ({ source, label }) =>
    speak`${label} is as ${words(source)} has it; here it can be named, described and moved, and no more`,
  'linked-required': ({ source, label }) =>
    speak`${label} must be given in ${words(source)}, so the form must ask for it`,
  'linked-no-adding': ({ source, table }) =>
    speak`Records of ${words(table)} cannot be added from here: ${words(source)} does not allow it`,
  'source-silent': ({ source }) =>
    speak`The source ${words(source)} does not answer, so nothing was kept. Try again in a moment`,
  'source-refused': ({ rule, source }) =>
    speak`The source ${words(source)} refuses this${rule ? speak` by its rule ${words(rule)}` : ''}, so nothing was kept`,
  'source-changed': ({ source, table }) =>
    speak`A record was changed in ${words(source)} meanwhile. Refresh the table ${words(table)}, and try again`,
  'source-fixed': ({ source, table }) =>
    speak`${words(table)} cannot be changed like this from here: ${words(source)} does not allow it`,
  'source-failed': ({ source, why }) => speak`The source ${words(source)} cannot be read: ${words(why)}`,
  'source-used': ({ tables }) => speak`Something comes from it, so end that first: ${words(tables)}`,
  'address-inside': () =>
    speak`This is on this machine or its own network. Whoever runs the machine may name it in SLATE_SOURCES_INSIDE`,
  'address-invalid': () => speak`Give the whole address, beginning with http:// or https://`,
  'secret-missing': () => speak`Give its password`,
  'not-linkable': ({ table, why }) => speak`The table ${words(table)} stays outside. ${words(why)}`,
};
