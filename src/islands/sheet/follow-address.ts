/** Behind the sign that browsers do not send, so that no server and no log ever meets the secret in an address. */
export const followAddress = (follow: string): string => `${location.origin}/followed#${follow}`;
/** What stands there; empty for nothing. */
export const followedHere = (): string => location.hash.slice(1);
