import { fork } from 'node:child_process';
import cluster from 'node:cluster';
import { fileURLToPath } from 'node:url';
import { processes } from './steps/processes.mjs';

/**
 * The server: as many processes as there are cores answer on one port (SLATE_PROCESSES says another number), and one beside them does what takes long.
 * What ends is begun again, so that one process that dies ends nobody else's work. Everything they share is in the database.
 */
const here = (file) => fileURLToPath(new URL(file, import.meta.url));

let stopping = false;
let told = false;
/** What ends again and again is begun again more and more seldom. */
const [PAUSE_MS, LONGEST_MS, STEADY_MS] = [1_000, 30_000, 60_000];

/** Keeps a process going that `begin` makes. */
function keepGoing(begin, pause = PAUSE_MS) {
  const begun = Date.now();
  begin().once('exit', () => {
    if (stopping) return;
    const next = Date.now() - begun > STEADY_MS ? PAUSE_MS : pause;
    setTimeout(() => stopping || keepGoing(begin, Math.min(next * 2, LONGEST_MS)), next);
  });
}

cluster.setupPrimary({ exec: here('serve-http.mjs'), args: [] });
const answering = new Set();
function beginAnswering() {
  const worker = cluster.fork();
  worker.once('listening', () => {
    answering.add(worker.id);
    if (told || answering.size < processes) return;
    told = true;
    process.send?.('listening');
  });
  worker.once('exit', (code) => {
    answering.delete(worker.id);
    // Whoever started us learns at once that nothing will answer; later they are begun again.
    if (!told && !stopping) stop(code || 1);
  });
  return worker;
}
for (let i = 0; i < processes; i++) keepGoing(beginAnswering);

let jobs = null;
if (process.env.SLATE_WORKER !== 'no')
  keepGoing(() => (jobs = fork(here('../src/jobs/worker.ts'), [], { execArgv: ['--import', 'tsx'] })));

function stop(code = 0) {
  if (stopping) return;
  stopping = true;
  jobs?.kill('SIGTERM');
  const workers = Object.values(cluster.workers ?? {});
  let left = workers.length;
  if (left === 0) process.exit(code);
  for (const worker of workers) {
    worker.once('exit', () => {
      if (--left === 0) process.exit(code);
    });
    worker.process.kill('SIGTERM');
  }
}
process.on('SIGTERM', () => stop());
process.on('SIGINT', () => stop());
// The start that made us was killed: nobody would stop us, so we stop.
process.on('disconnect', () => stop());
