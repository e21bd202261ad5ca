import type { QuestionKind } from '../../core/form/design';

export const kindWords: Readonly<Record<QuestionKind, string>> = {
  text: 'text', whole: 'whole number', decimal: 'decimal number', date: 'date', 'yes-no': 'yes or no', choice: 'one choice', lookup: 'lookup', calculated: 'calculated value', rows: 'repeating rows',
};

export const kindChoices = Object.entries(kindWords).map(([value, label]) => ({ value, label }));
export const columnKindChoices = kindChoices.filter(({ value }) => value !== 'rows');
