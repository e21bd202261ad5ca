import { tsImport } from 'tsx/esm/api';

// A thread does not take over how its process reads TypeScript, so it is told again.
await tsImport('../src/jobs/sheet-thread.ts', import.meta.url);
