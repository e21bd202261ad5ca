import { spawn, type ChildProcess } from 'node:child_process';

/** Worker processes of one test file, on the database of its world. */
export class Workers {
  private readonly begun: ChildProcess[] = [];

  begin(): ChildProcess {
    const worker = spawn(process.execPath, ['--import', 'tsx', 'src/jobs/worker.ts'], {
      env: { ...process.env, SLATE_LOG: 'silent' },
      stdio: 'ignore',
    });
    this.begun.push(worker);
    return worker;
  }

  /** As the system kills: without a word. */
  kill(worker: ChildProcess): Promise<unknown> {
    return new Promise((ended) => {
      worker.once('exit', ended);
      worker.kill('SIGKILL');
    });
  }

  end(): void {
    for (const worker of this.begun) worker.kill('SIGKILL');
  }
}

/** Asks again until there is something, for at most 80 seconds. */
export async function until<T>(what: () => Promise<T | null | false>): Promise<T> {
  for (let i = 0; i < 1_600; i++) {
    const found = await what();
    if (found !== null && found !== false) return found;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it did not come to pass');
}
