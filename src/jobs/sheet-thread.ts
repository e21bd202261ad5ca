import { parentPort } from 'node:worker_threads';
import { compileForm } from '../core/form/compile-form';
import { asRecords } from '../core/form/picked-record';
import { loadPatterns } from '../core/expression/functions/patterns';
import { pack } from '../core/expression/transfer';
import { Sheet } from '../core/form/sheet';
import { worldAt } from '../core/workspace';
import type { SheetToWorkOut, WorkedOut } from '../use-cases/submissions/heavy-sheet';

/** A thread beside the server that works out sheets which take long; begun by use-cases/submissions/heavy-sheet.ts, one sheet at a time. */
parentPort?.on(
  'message',
  ({ job, design, tables, answers, picked, workspace, now, sender }: SheetToWorkOut) => {
    void loadPatterns().then(() => {
      const form = compileForm(design, tables);
      if (!form.ok) throw new Error('a release does not compile any more');
      const sheet = new Sheet(
        form.value,
        answers,
        asRecords(picked, tables),
        worldAt(workspace, now, sender),
      );
      const answer: WorkedOut = {
        job,
        cells: sheet.worked().map(({ value, ...cell }) => ({ ...cell, value: pack(value) })),
      };
      parentPort?.postMessage(answer);
    });
  },
);
