/** Every limit a person can meet, in one place; the refusal that names a limit reads it from here. */
export const limits = {
  /** Characters of a short answer. */
  shortText: 500,
  /** Characters of a long answer. */
  longText: 20_000,
  /** Characters of any label or title. */
  label: 200,
  /** PostgreSQL cuts identifiers at 63 bytes; this leaves room for the suffixes of constraints. */
  key: 40,
  /**
   * Digits before the point of a number: the product of two with up to two decimals is then exact in the 34
   * that expressions keep (ADR 7).
   */
  numberDigits: 15,
  decimals: 8,
  /** Of one form, in its fixed texts; and bytes of each as it comes. */
  pictures: 50,
  pictureBytes: 15 * 1024 * 1024,
  /** Of a form as a file, its pictures with it. */
  formFileBytes: 30 * 1024 * 1024,
  /** Kept to be rehearsed again before each release of a form. */
  examples: 200,
  /** People of a list that is brought in at once. */
  directory: 5_000,
  /** Of one person. */
  passkeys: 20,
  rows: 500,
  /** Of one group within another, in all its rows together. */
  innerRows: 1_000,
  questions: 200,
  columns: 30,
  /** Of one table, those that are retired counted in. */
  tableColumns: 250,
  choices: 300,
  checks: 200,
  /** Of one table with others. */
  matches: 20,
  /** Records, and submissions, that are taken out or erased at once because they are about one person. */
  ofOnePerson: 500,
  /** Years that a duty to keep records may ask for. */
  yearsKept: 100,
  steps: 40,
  /** Of one form: tables of rules; of one of them: conditions and rows. */
  ruleTables: 10,
  ruleConditions: 12,
  ruleRows: 100,
  /** Of one form: answers that tell a record together. */
  finds: 5,
  /** Of one form: what it writes beside its own record. */
  further: 20,
  approvers: 500,
  /** Of one submission: words without a decision. */
  remarks: 500,
  /** Working days that a step may take. */
  withinDays: 100,
  /** Of one workspace: stretches of days it is closed besides public holidays, and days of each. */
  closedDays: 200,
  closedInARow: 100,
  /** Characters of a word to the sender, of a reason, or of a check's message. */
  word: 2_000,
  /** Answers that a table of rules fills. */
  ruleFills: 10,
  /** Answers by which a list tells what was sent. */
  listedBy: 5,
  /** Bytes of a request's body: a sheet of 500 rows of long answers fits. */
  requestBytes: 2 * 1024 * 1024,
  pageSize: 200,
  /** Days that events are kept for programs, and what became of telling them. */
  eventDays: 30,
  deliveryDays: 14,
  /** Of one workspace: addresses outside that are told. */
  eventAddresses: 50,
  /** Of one form: links for people outside; sites that may show it; characters of its welcome and thanks. */
  links: 100,
  sites: 20,
  greeting: 5_000,
  /**
   * Zero bits of what a browser looks for before it sends from outside: 65 000 tries in the mean, most of a
   * second; with 18 a slow machine was once kept for eight.
   */
  proofBits: 16,
  /** Requests of a token in a minute, edits of one of its batches, and days it may last. */
  tokenPerMinute: 600,
  batchEdits: 1_000,
  batchBytes: 8 * 1024 * 1024,
  tokenDays: 730,
  /** Days that a removed record can be brought back; then it is removed for good. */
  removedDays: 90,
  /** Of one import: files, and bytes of all of them together. */
  importFiles: 30,
  importBytes: 2_000_000_000,
  /** Of one answer: files; and bytes of each. */
  files: 20,
  fileBytes: 25 * 1024 * 1024,
  /** Files that somebody has brought and not sent yet, and their bytes. */
  filesWaiting: 300,
  filesWaitingBytes: 1_000_000_000,
  /** Days after which what was brought and never sent goes. */
  fileDays: 60,
  /** The same of what was brought from outside, of which nobody has a draft here. */
  visitFileDays: 7,
  /** Notices shown to somebody, and told in one mail. */
  notices: 50,
  /** Days after which what happened is mailed to nobody any more. */
  newsDays: 3,
  /** When the mail of the day goes, on the clocks of the workspace. */
  mailFrom: '07:00',
  /** Late steps about which somebody else is asked in one round. */
  lateAtOnce: 2_000,
  /** Mails that go in one round. */
  mailsAtOnce: 500,
  /** Bytes of the pieces a file is brought in. */
  pieceBytes: 1024 * 1024,
} as const;
