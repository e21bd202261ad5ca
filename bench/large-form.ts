import { randomUUID } from 'node:crypto';
import { text } from '../demo/questions';
import type { FormDesign } from '../src/core/form/design';

/** As long as a form gets: 60 questions and 40 checks. */
export const largeForm: FormDesign = {
  format: 1,
  title: 'Large',
  area: '',
  steps: [],
  table: { id: randomUUID(), key: 'large', label: 'Large', prefix: 'L' },
  sections: [
    {
      id: 'sw',
      title: '',
      questions: Array.from({ length: 60 }, (_, i) => text(`qw${i}`, `key_${i}`, `Question ${i}`)),
    },
  ],
  checks: Array.from({ length: 40 }, (_, i) => ({
    id: `kw${i}`,
    on: `qw${i}`,
    must: `string length(qw${i}) < ${i + 3}`,
    message: `At most ${i + 2}`,
    otherwise: 'stop' as const,
  })),
};
