import { formatsHere } from '../../core/formats/formats';

/** With the language of the form, and behind the sign that browsers do not send, so that no server and no log ever meets the secret in an address. */
export const followAddress = (follow: string): string =>
  `${location.origin}/followed?in=${formatsHere().language}#${follow}`;
/** What stands there; empty for nothing. */
export const followedHere = (): string => location.hash.slice(1);
