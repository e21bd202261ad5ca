import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { closeSync, openSync, readFileSync, readdirSync, rmSync, writeSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { join } from 'node:path';

const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Each fault is done to a running copy while 16 clients send and a neighbour reads; it ends when the copy ought to be well again. */
export const faults = {
  'nothing (to compare with)': async () => pause(6_000),

  'connections ended by the database': async ({ sql }) => {
    for (let i = 0; i < 12; i++) {
      await sql(
        `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name LIKE 'tidy-slate%' AND random() < 0.5`,
      );
      await pause(400);
    }
    await pause(1_500);
  },

  'the worker killed': async ({ processes }) => {
    for (const pid of processes('jobs/worker.ts')) process.kill(pid, 'SIGKILL');
    await pause(4_000);
  },

  'the server killed': async ({ processes, ready }) => {
    for (const pid of processes('scripts/serve.mjs')) process.kill(pid, 'SIGKILL');
    await pause(500);
    await ready(20_000);
    await pause(2_000);
  },
  'one answering process killed': async ({ processes, ready }) => {
    const [pid] = processes('scripts/serve-http.mjs');
    process.kill(pid, 'SIGKILL');
    await ready(20_000);
  },

  'the database killed': async ({ postmaster, ready }) => {
    process.kill(postmaster(), 'SIGKILL');
    await pause(500);
    await ready(40_000);
    await pause(2_000);
  },

  'the database away': async ({ start, postgres, ready, seconds, health }) => {
    // What would bring it back at once is held still meanwhile.
    process.kill(start.pid, 'SIGSTOP');
    postgres('stop', '-m', 'immediate');
    await pause(seconds * 500);
    const meanwhile = await health();
    await pause(seconds * 500);
    process.kill(start.pid, 'SIGCONT');
    await ready(40_000);
    await pause(2_000);
    return `health said ${JSON.stringify(meanwhile)}`;
  },

  'a full disk': async ({ folder, onTmpfs, ready }) => {
    if (!onTmpfs) return 'left out: a small disk of its own needs root';
    const filler = join(folder, 'filler');
    const file = openSync(filler, 'w');
    try {
      for (let piece = Buffer.alloc(1024 * 1024); piece.length > 0;) {
        try {
          writeSync(file, piece);
        } catch {
          piece = piece.subarray(0, Math.floor(piece.length / 2));
        }
      }
      await pause(8_000);
    } finally {
      closeSync(file);
      rmSync(filler);
    }
    await pause(500);
    await ready(60_000);
    await pause(3_000);
  },

  'bodies of 250 MB': async ({ port, rss }) => {
    const before = rss();
    let most = before;
    const watch = setInterval(() => (most = Math.max(most, rss())), 50);
    const answers = await Promise.all(Array.from({ length: 4 }, () => flood(port, 250 * 1024 * 1024)));
    clearInterval(watch);
    return `${answers.join(', ')}; the server grew by ${Math.max(0, most - before)} MB`;
  },

  'bodies without a length': async ({ port, rss }) => {
    const before = rss();
    const answers = await Promise.all(Array.from({ length: 4 }, () => flood(port, 60 * 1024 * 1024, true)));
    return `${answers.join(', ')}; the server grew by ${Math.max(0, rss() - before)} MB`;
  },

  'slow clients': async ({ port, seconds }) => {
    const began = Date.now();
    const ends = Array.from({ length: 60 }, () => slowly(port, seconds * 2_000));
    const lasted = await Promise.all(ends);
    return `60 at once, the longest was cut after ${Math.round(Math.max(...lasted) / 1_000)} s (${Math.round((Date.now() - began) / 1_000)} s in all)`;
  },

  'a form made to cost': async ({ ines, maren }) => {
    const form = await hostileForm(ines);
    const sent = await Promise.all(
      Array.from({ length: 6 }, async () => {
        const id = randomUUID();
        const draft = await maren('PUT', `/api/submissions/${id}`, {
          form,
          version: 0,
          answers: { values: { qhmany: '100000000' }, rows: {}, reasons: {} },
        });
        return maren('POST', `/api/submissions/${id}/send`, {
          key: randomUUID(),
          version: draft.body.version,
        });
      }),
    );
    return `six sendings of it: ${count(sent.map(({ status, body }) => `${status} ${body.issues?.[0]?.code ?? body.code}`))}`;
  },

  'a silent outside database': async ({ wren, ines }) => {
    const held = [];
    const silent = createServer((socket) => held.push(socket));
    await new Promise((resolve) => silent.listen(0, '127.0.0.1', resolve));
    try {
      const form = await formOf(ines, 'lots');
      await pointTo(wren, silent.address().port);
      const answers = [];
      for (let round = 0; round < 2; round++)
        answers.push(...(await Promise.all(Array.from({ length: 6 }, () => sendLot(ines, form)))));
      return `twelve sendings into it: ${count(answers)}`;
    } finally {
      for (const socket of held) socket.destroy();
      silent.close();
    }
  },
};

/** Those that the test command runs. */
export const short = [
  'nothing (to compare with)',
  'connections ended by the database',
  'one answering process killed',
  'the server killed',
  'the database killed',
  'bodies of 250 MB',
  'a form made to cost',
];

const count = (all) =>
  [...new Set(all)].map((one) => `${all.filter((other) => other === one).length} x ${one}`).join(', ');

/** Sends far more than is taken; gives how it was answered. */
function flood(port, bytes, chunked = false) {
  return new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1');
    const piece = Buffer.alloc(256 * 1024, 'x');
    let [left, said] = [bytes, ''];
    const timer = setTimeout(() => socket.destroy(), 20_000);
    socket.on('data', (data) => (said ||= data.toString().slice(9, 12)));
    socket.on('error', () => undefined);
    socket.on('close', () => {
      clearTimeout(timer);
      resolve(said || 'cut');
    });
    socket.write(
      `POST /api/sign-in HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: application/json\r\n${chunked ? 'Transfer-Encoding: chunked' : `Content-Length: ${bytes}`}\r\n\r\n`,
    );
    const more = () => {
      while (left > 0 && !socket.destroyed) {
        left -= piece.length;
        const sent = chunked
          ? socket.write(
              Buffer.concat([Buffer.from(`${piece.length.toString(16)}\r\n`), piece, Buffer.from('\r\n')]),
            )
          : socket.write(piece);
        if (!sent) return socket.once('drain', more);
      }
    };
    more();
  });
}

/** Sends a letter a second; gives how long that was borne, in ms. */
function slowly(port, most) {
  return new Promise((resolve) => {
    const began = Date.now();
    const socket = connect(port, '127.0.0.1');
    const letters = setInterval(() => socket.write('x'), 1_000);
    const end = setTimeout(() => socket.destroy(), most);
    socket.on('error', () => undefined);
    socket.on('close', () => {
      clearInterval(letters);
      clearTimeout(end);
      resolve(Date.now() - began);
    });
    socket.write(
      `POST /api/sign-in HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: application/json\r\nContent-Length: 4000\r\n\r\n`,
    );
  });
}

/** Twenty checks that each go through as many numbers as an answer says. */
async function hostileForm(ask) {
  const id = randomUUID();
  await ask('POST', '/api/forms', { id, title: `Counting ${id.slice(0, 4)}` });
  const { body } = await ask('GET', `/api/forms/${id}/design`);
  const design = {
    ...body.design,
    sections: [
      {
        id: 'sh',
        title: '',
        questions: [
          { id: 'qhmany', key: 'many', label: 'Many', hint: '', required: true, kind: 'whole', unit: '' },
        ],
      },
    ],
    checks: Array.from({ length: 20 }, (_, i) => ({
      id: `ch${i}`,
      on: 'qhmany',
      must: 'count(for i in 1..qhmany return i) >= 0',
      message: 'x',
      otherwise: 'stop',
    })),
  };
  return released(ask, id, { version: body.version, design });
}

async function released(ask, id, edit) {
  const edited =
    edit.design === undefined ? { body: edit } : await ask('PUT', `/api/forms/${id}/design`, edit);
  const done = await ask('POST', `/api/forms/${id}/release`, {
    version: edited.body.version,
    fill: 'everybody',
  });
  if (done.status !== 200)
    throw new Error(`a form could not be released: ${JSON.stringify(done.body).slice(0, 400)}`);
  return id;
}

async function formOf(ask, table) {
  const id = randomUUID();
  await ask('POST', `/api/tables/${table}/form`, { id });
  return released(ask, id, { version: 1 });
}

/** Moves the sample’s seed exchange to another port. */
async function pointTo(ask, port) {
  const { body } = await ask('GET', '/api/sources');
  const source = body.sources.find(({ address }) => address.t === 'database');
  const { body: whole } = await ask('GET', `/api/sources/${source.id}`);
  const moved = await ask('PUT', `/api/sources/${source.id}`, {
    version: whole.version,
    label: whole.label,
    address: { ...whole.address, port },
    secret: 'whatever',
  });
  if (moved.status !== 200) throw new Error(`the source could not be moved: ${JSON.stringify(moved.body)}`);
}

/** Something that fits a question. */
async function answerTo(ask, form, question, id) {
  switch (question.kind) {
    case 'text':
      return `${question.key} ${id.slice(0, 8)}`;
    case 'lookup':
      return (
        (await ask('POST', `/api/forms/${form}/lookups/${question.id}/options`, { submission: null })).body
          .options[0]?.id ?? null
      );
    case 'choice':
      return question.choices[0].code;
    case 'yes-no':
      return true;
    case 'date':
      return '2026-11-20';
    case 'date-time':
      return '2026-11-20 10:00';
    default:
      return ['whole', 'decimal', 'money'].includes(question.kind) ? '1' : null;
  }
}

async function sendLot(ask, form) {
  const id = randomUUID();
  const { body } = await ask('GET', `/api/forms/${form}/design`);
  const questions = body.design.sections.flatMap((section) => section.questions);
  const values = {};
  // What need not be filled may be what fills itself there.
  for (const question of questions.filter(({ required }) => required))
    values[question.id] = await answerTo(ask, form, question, id);
  const draft = await ask('PUT', `/api/submissions/${id}`, {
    form,
    version: 0,
    answers: { values, rows: {}, reasons: {} },
  });
  const sent = await ask('POST', `/api/submissions/${id}/send`, {
    key: randomUUID(),
    version: draft.body.version,
  }).catch(() => ({ status: 'no answer', body: {} }));
  return `${sent.status} ${sent.body.issues?.[0]?.code ?? sent.body.code ?? ''}`.trim();
}

/** Processes of one copy, by what stands in their command line, among those that began beneath `root`. */
export function processesOf(root, words) {
  const parents = new Map();
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      parents.set(
        Number(pid),
        Number(readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')[1]),
      );
    } catch {
      // It has ended meanwhile.
    }
  }
  const beneath = (pid) =>
    pid === root || (parents.has(pid) && parents.get(pid) > 1 && beneath(parents.get(pid)));
  return [...parents.keys()].filter((pid) => beneath(pid) && commandOf(pid).includes(words));
}

function commandOf(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8');
  } catch {
    return '';
  }
}

export function rssOf(pid) {
  try {
    return Math.round(
      Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024,
    );
  } catch {
    return 0;
  }
}

/** pg_ctl for the cluster of a folder. */
export function pgCtl(bin, folder, root, ...args) {
  const command = [join(bin, 'pg_ctl'), '-D', join(folder, 'pg'), '-w', ...args];
  execFileSync(
    root ? 'runuser' : command[0],
    root ? ['-u', 'postgres', '--', ...command] : command.slice(1),
    {
      cwd: '/',
      stdio: 'ignore',
    },
  );
}
