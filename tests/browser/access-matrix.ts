/**
 * Who gets what answer from every endpoint. The columns are kinds of person, in this order:
 * nobody signed in · the sender of the submission · another colleague · its approver · the owner of the form · an administrator.
 * `own` is a draft of the sender, `sent` one that waits for the approver, `hidden` a table that only administrators see, `none` an id of nothing.
 * 401 sign in · 403 not for you · 404 not there, or not shown to you · 409 moved on · 422 not like this. An endpoint without a line fails the test.
 */
export interface Line {
  readonly ask: string;
  readonly body?: unknown;
  readonly gets: string;
}

const design = { version: 999_999, design: '{otherDesign}' };
const key = '01900000-0000-7000-8000-00000000fff1';

const somebody = {
  name: 'Nobody Yet',
  email: 'nobody.yet@quillmere.example',
  place: '',
  roles: [],
  manager: null,
  deputy: null,
};

const ownView = {
  label: 'By area',
  for: { everybody: false, groups: [], people: [] },
  isFirst: false,
  design: { find: '', where: '', sort: '-area', columns: '', group: '', layout: 'grid', day: '', asks: [] },
};
const firstView = { ...ownView, isFirst: true };

export const matrix: readonly Line[] = [
  { ask: 'GET /api/health', gets: '200 200 200 200 200 200' },
  {
    ask: 'POST /api/sign-in',
    body: { email: '{fresh}@quillmere.example', password: 'not this one' },
    gets: '403 403 403 403 403 403',
  },
  { ask: 'POST /api/password', body: { present: 'x', next: 'short' }, gets: '401 422 422 422 422 422' },
  { ask: 'GET /api/home', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/approvals', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/waiting', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/live?topics=x', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/forms', gets: '401 403 403 403 200 200' },
  { ask: 'POST /api/forms', body: { id: '{form}', title: 'There is one' }, gets: '401 403 403 403 200 200' },
  { ask: 'GET /api/forms/{form}/design', gets: '401 403 403 403 200 200' },
  { ask: 'GET /api/forms/{none}/design', gets: '401 403 403 403 404 404' },
  { ask: 'PUT /api/forms/{form}/design', body: design, gets: '401 403 403 403 409 409' },
  { ask: 'POST /api/forms/{form}/at', body: { line: 'qtrbed' }, gets: '401 403 403 403 200 200' },
  { ask: 'POST /api/forms/{form}/impact', body: { must: 'true', on: 'x' }, gets: '401 403 403 403 200 200' },
  { ask: 'POST /api/forms/{form}/release', body: { version: 999_999 }, gets: '401 403 403 403 409 409' },
  {
    ask: 'POST /api/forms/{form}/lookups/qtrbed/options',
    body: { submission: null },
    gets: '401 200 200 200 200 200',
  },
  {
    ask: 'POST /api/forms/{form}/lookups/nothing/options',
    body: { submission: null },
    gets: '401 404 404 404 404 404',
  },
  {
    ask: 'POST /api/forms/{form}/lookups/qtrbed/names',
    body: { texts: ['G4-12'], submission: null },
    gets: '401 200 200 200 200 200',
  },
  {
    ask: 'POST /api/forms/{form}/lookups/qtrbed/each',
    body: { submission: null },
    gets: '401 200 200 200 200 200',
  },
  { ask: 'GET /api/forms/{form}/records/{none}', gets: '401 404 404 404 404 404' },
  { ask: 'GET /api/submissions/{own}', gets: '401 200 404 404 404 404' },
  { ask: 'GET /api/submissions/{sent}', gets: '401 200 404 200 200 404' },
  { ask: 'GET /api/submissions/{none}', gets: '401 404 404 404 404 404' },
  {
    ask: 'PUT /api/submissions/{sent}',
    body: { form: '{form}', version: 1, answers: { values: {}, rows: {}, reasons: {} } },
    gets: '401 409 404 403 404 404',
  },
  { ask: 'DELETE /api/submissions/{sent}', gets: '401 409 404 404 404 404' },
  {
    ask: 'POST /api/submissions/{own}/send',
    body: { key, version: 999_999 },
    gets: '401 409 404 404 404 404',
  },
  {
    ask: 'POST /api/submissions/{sent}/decide',
    body: { key, version: 999_999, decision: 'approve', word: '' },
    gets: '401 403 404 409 404 404',
  },
  {
    ask: 'POST /api/submissions/{own}/carry-over',
    body: { version: 999_999 },
    gets: '401 200 404 404 404 404',
  },
  {
    ask: 'POST /api/submissions/{sent}/carry-over',
    body: { version: 1 },
    gets: '401 409 404 404 404 404',
  },
  {
    ask: 'POST /api/submissions/{sent}/withdraw',
    body: { key, version: 999_999 },
    gets: '401 409 404 403 404 404',
  },
  {
    ask: 'POST /api/welcome',
    body: { token: 'nobody-was-ever-given-this-one' },
    gets: '404 404 404 404 404 404',
  },
  {
    ask: 'POST /api/welcome/take',
    body: { token: 'nobody-was-ever-given-this-one', password: 'four green ferns grow' },
    gets: '404 404 404 404 404 404',
  },
  { ask: 'GET /api/people', gets: '401 403 403 403 403 200' },
  { ask: 'PUT /api/people/{none}', body: { ...somebody, email: '{fresh}' }, gets: '401 422 422 422 422 422' },
  { ask: 'PUT /api/people/{none}', body: somebody, gets: '401 403 403 403 403 200' },
  { ask: 'POST /api/people/{fresh}/invite', body: {}, gets: '401 403 403 403 403 404' },
  { ask: 'POST /api/people/{fresh}/end', body: { to: '{fresh}' }, gets: '401 403 403 403 403 404' },
  { ask: 'POST /api/people/{fresh}/begin', body: {}, gets: '401 403 403 403 403 404' },
  {
    ask: 'PUT /api/groups/{none}',
    body: { label: 'Matrix', people: [], groups: [] },
    gets: '401 403 403 403 403 200',
  },
  { ask: 'DELETE /api/groups/{none}', gets: '401 403 403 403 403 200' },
  { ask: 'GET /api/forms/{form}/who', gets: '401 404 404 404 200 200' },
  { ask: 'PUT /api/forms/{form}/who', body: { grants: [], seen: [] }, gets: '401 404 404 404 422 422' },
  { ask: 'GET /api/tables/beds/matches', gets: '401 403 403 403 200 200' },
  { ask: 'GET /api/tables/{hidden}/matches', gets: '401 404 404 404 404 200' },
  { ask: 'GET /api/tables/beds/who', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/{hidden}/who', gets: '401 404 404 404 404 200' },
  { ask: 'PUT /api/tables/beds/who', body: { grants: [], seen: [] }, gets: '401 403 403 403 422 422' },
  { ask: 'PUT /api/tables/{hidden}/who', body: { grants: [], seen: [] }, gets: '401 404 404 404 404 422' },
  { ask: 'GET /api/tables', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/picture', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/package', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/beds/records', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/{hidden}/records', gets: '401 404 404 404 404 200' },
  { ask: 'GET /api/tables/{hidden}/records/{none}', gets: '401 404 404 404 404 404' },
  { ask: 'GET /api/tables/beds/bulk', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/{hidden}/bulk', gets: '401 404 404 404 404 200' },
  {
    ask: 'POST /api/tables/beds/bulk',
    body: { id: '{fresh}', where: 'code = "nowhere"', column: 'cnone', value: null },
    gets: '401 422 422 422 422 422',
  },
  {
    ask: 'POST /api/tables/{hidden}/bulk',
    body: { id: '{fresh}', column: 'cnone', value: null },
    gets: '401 404 404 404 404 422',
  },
  { ask: 'POST /api/bulk/{none}', body: { do: 'stop' }, gets: '401 404 404 404 404 404' },
  { ask: 'GET /api/tables/beds/facets', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/{hidden}/facets', gets: '401 404 404 404 404 200' },
  { ask: 'GET /api/tables/beds/facets?where=nothing', gets: '401 422 422 422 422 422' },
  { ask: 'GET /api/tables/beds/pick?q=fern', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/{hidden}/pick', gets: '401 404 404 404 404 200' },
  { ask: 'POST /api/tables/{hidden}/pick', body: { texts: ['x'] }, gets: '401 404 404 404 404 200' },
  {
    ask: 'POST /api/edits',
    body: { key: '{fresh}', edits: [{ t: 'remove', table: '{beds}', id: '{none}', version: 1 }] },
    gets: '401 422 422 422 422 422',
  },
  {
    ask: 'POST /api/edits',
    body: { key: '{fresh}', edits: [{ t: 'remove', table: '{hiddenId}', id: '{none}', version: 1 }] },
    gets: '401 404 404 404 404 422',
  },
  { ask: 'GET /api/tables/beds', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/{hidden}', gets: '401 404 404 404 404 200' },
  { ask: 'GET /api/tables/beds/groups?by=section', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/beds/groups?by=nothing', gets: '401 422 422 422 422 422' },
  { ask: 'GET /api/tables/{hidden}/groups', gets: '401 404 404 404 404 200' },
  {
    ask: 'PUT /api/tables/beds/look',
    body: { columns: null, widths: {}, pinned: 0 },
    gets: '401 200 200 200 200 200',
  },
  {
    ask: 'PUT /api/tables/{hidden}/look',
    body: { columns: null, widths: {}, pinned: 0 },
    gets: '401 404 404 404 404 200',
  },
  { ask: 'GET /api/tables/beds/views', gets: '401 200 200 200 200 200' },
  { ask: 'GET /api/tables/{hidden}/views', gets: '401 404 404 404 404 200' },
  // Anybody keeps views of their own; what the table shows first is said by those who design it.
  {
    ask: 'PUT /api/tables/beds/views/{none}',
    body: { version: 1, view: firstView },
    gets: '401 403 403 403 404 404',
  },
  {
    ask: 'PUT /api/tables/beds/views/{none}',
    body: { version: 1, view: ownView },
    gets: '401 404 404 404 404 404',
  },
  {
    ask: 'PUT /api/tables/{hidden}/views/{fresh}',
    body: { version: null, view: ownView },
    gets: '401 404 404 404 404 200',
  },
  { ask: 'DELETE /api/tables/beds/views/{none}', gets: '401 404 404 404 404 404' },
  { ask: 'GET /api/tables/beds/bin', gets: '401 403 200 403 200 403' },
  { ask: 'GET /api/tables/{hidden}/bin', gets: '401 404 404 404 404 403' },
  { ask: 'GET /api/tables/{hidden}/export?as=csv', gets: '401 404 404 404 404 200' },
  { ask: 'GET /api/tables/{hidden}/design', gets: '401 403 403 403 404 200' },
  { ask: 'GET /api/tables/beds/design', gets: '401 403 403 403 200 200' },
  { ask: 'GET /api/tables/{hidden}/columns/cnote/values', gets: '401 403 403 403 404 200' },
  { ask: 'POST /api/tables/{hidden}/form', body: { id: '{fresh}' }, gets: '401 403 403 403 404 200' },
  {
    ask: 'POST /api/tables/{hidden}/forms',
    body: { form: '{form}', allowed: true },
    gets: '401 404 404 404 404 404',
  },
  {
    ask: 'POST /api/tables/beds/forms',
    body: { form: '{none}', allowed: true },
    gets: '401 403 403 403 404 404',
  },
  { ask: 'PUT /api/tables/{hidden}/link', body: { every: 60 }, gets: '401 403 403 403 404 404' },
  { ask: 'DELETE /api/tables/{hidden}/link', gets: '401 403 403 403 404 404' },
  { ask: 'POST /api/tables/{hidden}/link/refresh', body: {}, gets: '401 404 404 404 404 404' },
  { ask: 'GET /api/table-changes/{none}', gets: '401 404 404 404 404 404' },
  {
    ask: 'PUT /api/table-changes/{fresh}',
    body: { version: 0, base: 1, redesign: { table: '{hiddenTable}', readings: {}, mends: {} } },
    gets: '401 403 403 403 403 200',
  },
  { ask: 'DELETE /api/table-changes/{fresh}', body: {}, gets: '401 404 404 404 404 404' },
  { ask: 'GET /api/table-changes/{fresh}/impact', gets: '401 404 404 404 404 404' },
  { ask: 'POST /api/table-changes/{fresh}/run', body: { version: 1 }, gets: '401 403 403 403 404 404' },
  { ask: 'GET /api/imports', gets: '401 403 403 403 200 200' },
  { ask: 'POST /api/imports', body: { id: '{fresh}', files: [] }, gets: '401 422 422 422 422 422' },
  { ask: 'GET /api/imports/{none}', gets: '401 404 404 404 404 404' },
  {
    ask: 'PUT /api/imports/{none}',
    body: { version: 1, decisions: { sheets: {}, columns: {}, declined: [], refusedRows: 'keep-nothing' } },
    gets: '401 404 404 404 404 404',
  },
  { ask: 'POST /api/imports/{none}/accept', body: { version: 1 }, gets: '401 403 403 403 404 404' },
  { ask: 'POST /api/imports/{none}/try', body: { version: 1 }, gets: '401 403 403 403 404 404' },
  { ask: 'POST /api/imports/{none}/cancel', body: {}, gets: '401 404 404 404 404 404' },
  { ask: 'POST /api/imports/{none}/read', body: {}, gets: '401 404 404 404 404 404' },
  {
    ask: 'POST /api/imports/{none}/headings',
    body: { version: 1, sheet: 'x', row: 1 },
    gets: '401 404 404 404 404 404',
  },
  { ask: 'GET /api/imports/{none}/refused?sheet=x', gets: '401 404 404 404 404 404' },
  { ask: 'GET /api/files/{none}', gets: '401 404 404 404 404 404' },
  { ask: 'GET /api/files/{none}/thumb', gets: '401 404 404 404 404 404' },
  {
    ask: 'PUT /api/files/{fresh}',
    body: { form: '{form}', question: 'qtrbed', submission: null, name: 'leaf.jpg', size: 10 },
    gets: '401 404 404 404 404 404',
  },
  { ask: 'PUT /api/files/{none}/pieces/0', body: 'bytes', gets: '401 404 404 404 404 404' },
  {
    ask: 'POST /api/files/{none}/finish',
    body: { form: '{form}', question: 'qtrbed', submission: null },
    gets: '401 404 404 404 404 404',
  },
  { ask: 'POST /api/files/about', body: { ids: ['{none}'] }, gets: '401 200 200 200 200 200' },
  { ask: 'PUT /api/imports/{none}/files/0/0', body: 'bytes', gets: '401 404 404 404 404 404' },
  { ask: 'GET /api/lists', gets: '401 403 403 403 200 200' },
  { ask: 'GET /api/lists/{none}', gets: '401 403 403 403 404 404' },
  {
    ask: 'PUT /api/lists/{none}',
    body: { version: 5, label: 'L', description: '', choices: [{ code: 'a', label: 'A' }] },
    gets: '401 403 403 403 409 409',
  },
  { ask: 'DELETE /api/lists/{none}', gets: '401 403 403 403 404 404' },
  { ask: 'GET /api/sources', gets: '401 403 403 403 200 200' },
  { ask: 'GET /api/sources/{none}', gets: '401 403 403 403 404 404' },
  {
    ask: 'PUT /api/sources/{none}',
    body: {
      version: 3,
      label: 'S',
      address: { t: 'list', url: 'https://quillmere.example/list', header: '' },
      secret: null,
    },
    gets: '401 403 403 403 403 409',
  },
  { ask: 'DELETE /api/sources/{none}', gets: '401 403 403 403 403 404' },
  { ask: 'GET /api/sources/{none}/look', gets: '401 403 403 403 404 404' },
  {
    ask: 'POST /api/sources/{none}/tables',
    body: { tables: ['a.b'], every: 60 },
    gets: '401 403 403 403 404 404',
  },
  { ask: 'POST /api/sources/{none}/follow', body: { table: 'a.b' }, gets: '401 403 403 403 404 404' },
  { ask: 'POST /api/sign-out', body: {}, gets: '200 200 200 200 200 200' },
];
