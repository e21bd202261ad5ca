import type { Refusal, Stale, StaleOf } from '../kernel/refusal';
import { unreachable } from '../kernel/result';

/** What happened and what to do, for the title of a problem document and for the screen. */
export function refusalSentence(refusal: Refusal): string {
  switch (refusal.kind) {
    case 'invalid':
      return refusal.issues.length === 1
        ? 'There is 1 thing to fix'
        : `There are ${refusal.issues.length} things to fix`;
    case 'not-found':
      return refusal.what === 'invitation'
        ? 'This link was used already, or is too old. Ask whoever sent it for another'
        : `There is no such ${refusal.what}, or it is not shown to you`;
    case 'too-large':
      return `That is more than ${Math.floor(refusal.limitBytes / 1024 / 1024)} MB, the most that can be sent at once`;
    case 'forbidden':
      return forbiddenWords[refusal.why];
    case 'stale':
      return staleSentence(refusal);
    case 'too-many':
      return tooManySentence(refusal);
    case 'unavailable':
      return unavailableWords[refusal.why];
    default:
      return unreachable(refusal);
  }
}

const forbiddenWords: Readonly<Record<Extract<Refusal, { kind: 'forbidden' }>['why'], string>> = {
  'sign-in': 'Sign in first',
  password: 'This e-mail and password do not belong together',
  code: 'This code is not right, or was used already. A code lasts half a minute; take the next one',
  'code-late': 'Give your password again: that was too long ago, or too many codes were wrong',
  passkey: 'This passkey is not known here. Sign in by your password, and add it under your account',
  'no-provider': 'Nobody signs in here through another service',
  'provider-silent':
    'The other service does not answer now. Try again in a moment, or sign in by your password',
  'provider-late': 'That took too long, or was done already',
  'provider-no': 'The other service did not say who you are',
  'provider-nobody':
    'Nobody here has the e-mail address the other service knows you by; ask an administrator',
  'no-passkeys-here': 'Passkeys need an address with a name; this one has only a number',
  design: 'Designing forms and tables is for owners; ask an administrator to make you one',
  'remove-records': 'You may not remove records of this table, so its bin is not for you',
  'design-table': 'This table is designed by others; ask them, or an administrator',
  fill: 'This form is not open to you',
  'form-closed': 'This form is closed just now. Drafts stay, and can be sent when it opens again',
  'form-not-yet': 'This form is not open yet',
  'form-over': 'This form is closed, for its time is over. Drafts stay',
  'form-full': 'This form is closed: as many as there may be have been sent. Drafts stay',
  'change-by-form': 'Records are not changed by this form, or not by you; ask whoever looks after the table',
  see: 'This is not shown to you; ask its owner',
  'own-only': 'Only the sender may do this',
  'not-asked': 'You are not among those asked to decide this',
  'own-submission': 'Nobody approves their own submission',
  'beyond-token': 'This token may not do that. An administrator can make one that may',
  token: 'This needs a token that is known and not over; an administrator makes one',
  looking: 'You are looking as somebody else, so nothing is changed; stop looking first',
  link: 'This link leads nowhere. Look whether all of the address was copied, or ask whoever gave it to you',
  'link-stopped': 'This form is not taken any more. Ask whoever gave you the link',
  'link-over': 'The time for this form is over. Ask whoever gave you the link',
  'link-full': 'As many as there may be have been sent, so this form is closed',
  'link-waits': 'This form is closed for a moment, because something was changed in it. Try again tomorrow',
  proof: 'Your browser was not ready yet. Send again',
  workspace: 'What holds for the whole workspace is changed by administrators; ask one',
  people: 'People are added and changed by administrators; ask one',
  sources: 'Sources outside are set up by administrators; ask one',
  origin: 'This request came from another site and was not carried out',
};

const unavailableWords: Readonly<Record<Extract<Refusal, { kind: 'unavailable' }>['why'], string>> = {
  database: 'The database cannot be reached just now. Nothing was changed; try again in a moment',
  unsure:
    'The connection to the database was lost while this was being saved. Try again; nothing is done twice',
  outside:
    'Another database that this is also written to does not answer just now. Nothing was changed; try again in a moment',
  'no-room':
    'The machine has no room left to save anything. Nothing was changed; tell whoever runs it, and try again then',
  'too-slow': 'This took too long and was stopped. Nothing was changed',
};

function tooManySentence({ why, retryAfter }: Extract<Refusal, { kind: 'too-many' }>): string {
  switch (why) {
    case 'streams':
      return 'Tidy Slate is open in too many windows at once; close some of them';
    case 'sign-in':
      return `Too many tries. Wait ${waitWords(retryAfter)}, then try again`;
    case 'outside':
      return `Very much has come from where you are. Wait ${waitWords(retryAfter)}, then send again; what you typed stays`;
    case 'token':
      return `More requests than a token may make in a minute. Wait ${waitWords(retryAfter)}, then go on`;
    default:
      return unreachable(why);
  }
}

const waitWords = (seconds: number): string =>
  seconds < 60
    ? `${seconds} ${seconds === 1 ? 'second' : 'seconds'}`
    : seconds < 120
      ? 'a minute'
      : `${Math.ceil(seconds / 60)} minutes`;

function staleSentence(refusal: Stale): string {
  switch (refusal.why) {
    case 'design-changed':
      return `${refusal.facts.by ?? 'Somebody'} changed this form meanwhile. Load it again to go on from theirs`;
    case 'draft-changed':
      return 'This draft was changed in another window. Load it again to go on from there';
    case 'already-sent':
      return 'This has already been sent';
    case 'key-reused':
      return 'This was sent before with something else in it. Load the page again and look what became of it';
    case 'already-decided':
      return decidedSentence(refusal.facts);
    case 'not-waiting':
      return `This is not waiting any more: ${stateWord(refusal.facts.state)}`;
    case 'import-moved':
      return 'This import has moved on meanwhile; load the page again to see where it is';
    case 'import-changed':
      return 'This import was changed in another window. Load it again to go on from there';
    case 'table-changed':
      return `${refusal.facts.by ?? 'Somebody'} changed this table meanwhile. Bring your changes onto theirs, then look them over again`;
    case 'change-changed':
      return 'This was changed in another window. Load it again to go on from there';
    case 'source-changed':
      return 'This source was changed meanwhile. Load it again to go on from there';
    case 'list-changed':
      return `${refusal.facts.by ?? 'Somebody'} changed this list meanwhile. Bring your changes onto theirs, then look them over again`;
    case 'record-moved-on':
      return 'The record was changed since the version this began from; read it again';
    case 'people-changed':
      return 'People were changed meanwhile. Look at them as they are now, and do it again';
    case 'workspace-changed':
      return 'Somebody else changed this meanwhile. Load the page anew to see how it is now';
    case 'address-changed':
      return 'Somebody else changed this address meanwhile; look at it again before you save';
    case 'view-changed':
      return 'Somebody changed this view meanwhile; reload the page to see it as it is now';
    case 'bulk-running':
      return 'You are changing records of this table already; wait until that is done, or stop it';
    case 'who-changed':
      return 'Somebody else has just changed who may do what; look at it again before you save';
    case 'outside-changed':
      return 'Somebody else has just changed what people outside meet; look at it again before you save';
    case 'change-ended':
      return 'This change has been carried out or dropped already';
    case 'busy':
      return 'Somebody else is changing the same thing right now; try again in a moment';
    default:
      return unreachable(refusal);
  }
}

function decidedSentence({ by, decision, state }: StaleOf<'already-decided'>['facts']): string {
  if (decision === 'lapse')
    return `This was late, and went on without you${state === 'waiting' ? '' : `: ${stateWord(state)}`}`;
  if (by && state === 'waiting')
    return `${by} ${decisionWord(decision)} already; it has gone on to the next step`;
  return `${by ? `${by} decided this already` : 'This has been decided already'}: ${stateWord(state)}`;
}

const decisionWord = (decision: unknown): string =>
  decision === 'send' ? 'sent this again' : 'decided this step';

const stateWords: Readonly<Record<string, string>> = {
  draft: 'draft',
  waiting: 'waiting for a decision',
  'sent-back': 'sent back',
  kept: 'approved and kept',
  declined: 'declined',
  withdrawn: 'withdrawn',
};
export const stateWord = (state: unknown): string => stateWords[String(state)] ?? String(state);
