import type { Refusal, Stale, StaleOf } from '../kernel/refusal';
import { unreachable } from '../kernel/result';
import { speak, spoken } from './speak';

/** What happened and what to do, for the title of a problem document and for the screen. */
export function refusalSentence(refusal: Refusal): string {
  switch (refusal.kind) {
    case 'invalid':
      return refusal.issues.length === 1
        ? speak`There is 1 thing to fix`
        : speak`There are ${refusal.issues.length} things to fix`;
    case 'not-found':
      return refusal.what === 'invitation'
        ? speak`This link was used already, or is too old. Ask whoever sent it for another`
        : speak`There is no such ${refusal.what}, or it is not shown to you`;
    case 'too-large':
      return speak`That is more than ${Math.floor(refusal.limitBytes / 1024 / 1024)} MB, the most that can be sent at once`;
    case 'forbidden':
      return forbiddenWords()[refusal.why];
    case 'stale':
      return staleSentence(refusal);
    case 'too-many':
      return tooManySentence(refusal);
    case 'unavailable':
      return unavailableWords()[refusal.why];
    default:
      return unreachable(refusal);
  }
}

const forbiddenWords = spoken(
  (): Readonly<Record<Extract<Refusal, { kind: 'forbidden' }>['why'], string>> => ({
    'sign-in': speak`Sign in first`,
    password: speak`This e-mail and password do not belong together`,
    code: speak`This code is not right, or was used already. A code lasts half a minute; take the next one`,
    'code-late': speak`Give your password again: that was too long ago, or too many codes were wrong`,
    passkey: speak`This passkey is not known here. Sign in by your password, and add it under your account`,
    'no-provider': speak`Nobody signs in here through another service`,
    'provider-silent': speak`The other service does not answer now. Try again in a moment, or sign in by your password`,
    'provider-late': speak`That took too long, or was done already`,
    'provider-no': speak`The other service did not say who you are`,
    'provider-nobody': speak`Nobody here has the e-mail address the other service knows you by; ask an administrator`,
    'no-passkeys-here': speak`Passkeys need an address with a name; this one has only a number`,
    design: speak`Designing forms and tables is for owners; ask an administrator to make you one`,
    'remove-records': speak`You may not remove records of this table, so its bin is not for you`,
    'design-table': speak`This table is designed by others; ask them, or an administrator`,
    fill: speak`This form is not open to you`,
    'form-closed': speak`This form is closed just now. Drafts stay, and can be sent when it opens again`,
    'form-not-yet': speak`This form is not open yet`,
    'form-over': speak`This form is closed, for its time is over. Drafts stay`,
    'form-full': speak`This form is closed: as many as there may be have been sent. Drafts stay`,
    'change-by-form': speak`Records are not changed by this form, or not by you; ask whoever looks after the table`,
    see: speak`This is not shown to you; ask its owner`,
    'own-only': speak`Only the sender may do this`,
    'not-asked': speak`You are not among those asked to decide this`,
    'own-submission': speak`Nobody approves their own submission`,
    'beyond-token': speak`This token may not do that. An administrator can make one that may`,
    token: speak`This needs a token that is known and not over; an administrator makes one`,
    looking: speak`You are looking as somebody else, so nothing is changed; stop looking first`,
    link: speak`This link leads nowhere. Look whether all of the address was copied, or ask whoever gave it to you`,
    'link-stopped': speak`This form is not taken any more. Ask whoever gave you the link`,
    'link-over': speak`The time for this form is over. Ask whoever gave you the link`,
    'link-full': speak`As many as there may be have been sent, so this form is closed`,
    'link-waits': speak`This form is closed for a moment, because something was changed in it. Try again tomorrow`,
    proof: speak`Your browser was not ready yet. Send again`,
    workspace: speak`What holds for the whole workspace is changed by administrators; ask one`,
    people: speak`People are added and changed by administrators; ask one`,
    sources: speak`Sources outside are set up by administrators; ask one`,
    origin: speak`This request came from another site and was not carried out`,
  }),
);

const unavailableWords = spoken(
  (): Readonly<Record<Extract<Refusal, { kind: 'unavailable' }>['why'], string>> => ({
    database: speak`The database cannot be reached just now. Nothing was changed; try again in a moment`,
    unsure: speak`The connection to the database was lost while this was being saved. Try again; nothing is done twice`,
    outside: speak`Another database that this is also written to does not answer just now. Nothing was changed; try again in a moment`,
    'no-room': speak`The machine has no room left to save anything. Nothing was changed; tell whoever runs it, and try again then`,
    'too-slow': speak`This took too long and was stopped. Nothing was changed`,
  }),
);

function tooManySentence({ why, retryAfter }: Extract<Refusal, { kind: 'too-many' }>): string {
  switch (why) {
    case 'streams':
      return speak`Tidy Slate is open in too many windows at once; close some of them`;
    case 'sign-in':
      return speak`Too many tries. Wait ${waitWords(retryAfter)}, then try again`;
    case 'outside':
      return speak`Very much has come from where you are. Wait ${waitWords(retryAfter)}, then send again; what you typed stays`;
    case 'token':
      return speak`More requests than a token may make in a minute. Wait ${waitWords(retryAfter)}, then go on`;
    default:
      return unreachable(why);
  }
}

const waitWords = (seconds: number): string =>
  seconds < 60
    ? `${seconds} ${seconds === 1 ? speak`second` : speak`seconds`}`
    : seconds < 120
      ? 'a minute'
      : speak`${Math.ceil(seconds / 60)} minutes`;

function staleSentence(refusal: Stale): string {
  switch (refusal.why) {
    case 'design-changed':
      return speak`${refusal.facts.by ?? speak`Somebody`} changed this form meanwhile. Load it again to go on from theirs`;
    case 'draft-changed':
      return speak`This draft was changed in another window. Load it again to go on from there`;
    case 'already-sent':
      return speak`This has already been sent`;
    case 'key-reused':
      return speak`This was sent before with something else in it. Load the page again and look what became of it`;
    case 'already-decided':
      return decidedSentence(refusal.facts);
    case 'not-waiting':
      return speak`This is not waiting any more: ${stateWord(refusal.facts.state)}`;
    case 'import-moved':
      return speak`This import has moved on meanwhile; load the page again to see where it is`;
    case 'import-changed':
      return speak`This import was changed in another window. Load it again to go on from there`;
    case 'table-changed':
      return speak`${refusal.facts.by ?? speak`Somebody`} changed this table meanwhile. Bring your changes onto theirs, then look them over again`;
    case 'change-changed':
      return speak`This was changed in another window. Load it again to go on from there`;
    case 'source-changed':
      return speak`This source was changed meanwhile. Load it again to go on from there`;
    case 'list-changed':
      return speak`${refusal.facts.by ?? speak`Somebody`} changed this list meanwhile. Bring your changes onto theirs, then look them over again`;
    case 'record-moved-on':
      return speak`The record was changed since the version this began from; read it again`;
    case 'people-changed':
      return speak`People were changed meanwhile. Look at them as they are now, and do it again`;
    case 'workspace-changed':
      return speak`Somebody else changed this meanwhile. Load the page anew to see how it is now`;
    case 'address-changed':
      return speak`Somebody else changed this address meanwhile; look at it again before you save`;
    case 'view-changed':
      return speak`Somebody changed this view meanwhile; reload the page to see it as it is now`;
    case 'bulk-running':
      return speak`You are changing records of this table already; wait until that is done, or stop it`;
    case 'who-changed':
      return speak`Somebody else has just changed who may do what; look at it again before you save`;
    case 'outside-changed':
      return speak`Somebody else has just changed what people outside meet; look at it again before you save`;
    case 'change-ended':
      return speak`This change has been carried out or dropped already`;
    case 'busy':
      return speak`Somebody else is changing the same thing right now; try again in a moment`;
    default:
      return unreachable(refusal);
  }
}

function decidedSentence({ by, decision, state }: StaleOf<'already-decided'>['facts']): string {
  if (decision === 'lapse')
    return speak`This was late, and went on without you${state === 'waiting' ? '' : `: ${stateWord(state)}`}`;
  if (by && state === 'waiting')
    return speak`${by} ${decisionWord(decision)} already; it has gone on to the next step`;
  return `${by ? speak`${by} decided this already` : speak`This has been decided already`}: ${stateWord(state)}`;
}

const decisionWord = (decision: unknown): string =>
  decision === 'send' ? speak`sent this again` : speak`decided this step`;

const stateWords = spoken((): Readonly<Record<string, string>> => ({
  draft: speak`draft`,
  waiting: speak`waiting for a decision`,
  'sent-back': speak`sent back`,
  kept: speak`approved and kept`,
  declined: speak`declined`,
  withdrawn: speak`withdrawn`,
}));
export const stateWord = (state: unknown): string => stateWords()[String(state)] ?? String(state);
