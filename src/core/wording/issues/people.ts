import type { PeopleFacts } from '../../kernel/issue';
import type { Sentences } from './sentences';
import { words } from './words';

/** Of people and groups. */
export const peopleSentences: Sentences<PeopleFacts> = {
  'email-taken': ({ name }) => `${words(name)} has this e-mail address already`,
  'not-a-colleague': () => 'Somebody named here has left, or is not one of your colleagues',
  'own-access': () => 'Somebody else must end your own access',
  'last-administrator': () =>
    'Nobody would administer the workspace any more; make somebody else an administrator first',
  'group-in-itself': () => 'A group cannot be inside itself, nor inside a group that it holds',
  'group-label-taken': () => 'There is a group of this name already',
  'group-gone': () => 'A group named here is not there any more',
  'nobody-designs': () => 'Somebody must be left who may change this',
  'nobody-fills': () => 'Say who may fill it before it is released',
};
