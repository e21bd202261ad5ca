import type { DirectoryFault, DirectoryOutcome, FollowEvery } from '../directory/following';
import { sourceFaultSentence } from './source-sentence';
import { counted } from './numbers';
import { speak, spoken } from './speak';

export const followWords = spoken((): Readonly<Record<FollowEvery, string>> => ({
  15: speak`every 15 minutes`,
  60: speak`every hour`,
  1440: speak`once a day`,
}));

/** Why a list of people could not be read. */
export function listFaultSentence(fault: DirectoryFault): string {
  switch (fault.code) {
    case 'no-people':
      return String(fault.facts['missing']).includes('email')
        ? speak`Its entries have no field that is called e-mail`
        : speak`Its entries have no field that is called name`;
    case 'too-many':
      return speak`It has more than ${String(fault.facts['most'])} people, the most that are followed`;
    case 'not-administrator':
      return speak`${String(fault.facts['name'])}, who had it followed, is no administrator any more: follow it as yourself`;
    default:
      return sourceFaultSentence(fault);
  }
}

/** What came of following it the last time. */
export function outcomeSentence(outcome: DirectoryOutcome): string {
  switch (outcome.t) {
    case 'followed':
      return [
        outcome.added > 0 ? speak`${outcome.added} added` : '',
        outcome.changed > 0 ? speak`${outcome.changed} changed` : '',
        outcome.left > 0 ? speak`${outcome.left} left` : '',
        outcome.added + outcome.changed + outcome.left === 0 ? speak`everybody was known just so` : '',
      ]
        .filter((part) => part !== '')
        .join(', ');
    case 'held':
      return speak`Nothing was changed: ${outcome.leaving} of the ${counted(outcome.of, 'person', 'people')} who came by it are not in it any more. Look it over, and follow it if that is right`;
    case 'failed':
      return speak`${listFaultSentence(outcome.fault)}. Everybody stays as they are, and it is tried again by itself`;
  }
}
