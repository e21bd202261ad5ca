import type { ChoiceList } from '../src/core/table/choice-list';
import type { ColumnChoice } from '../src/core/table/model';

export const choicesOf = (labels: readonly string[]): ColumnChoice[] =>
  labels.map((one) => ({ code: one.toLowerCase().replaceAll(' ', '_'), label: one }));

/** The choice lists of the sample world, as they are first made. */
export const waysOfComing: ChoiceList = {
  id: '01900000-0000-7000-b100-000000000001',
  version: 0,
  label: 'Ways plants come',
  description: 'How material reaches the garden; asked wherever it is taken in.',
  choices: [
    ...choicesOf(['Exchange', 'Seed', 'Wild collected', 'Purchase']),
    { code: 'swap_table', label: 'Swap table', retired: true },
  ],
};
export const conditions: ChoiceList = {
  id: '01900000-0000-7000-b100-000000000002',
  version: 0,
  label: 'Conditions',
  description: 'How something looks when somebody stands before it.',
  choices: choicesOf(['Thriving', 'Fair', 'Poor', 'Failing']),
};
export const choiceLists = [waysOfComing, conditions] as const;
