import { expect, it } from 'vitest';
import { beyondSentence } from './beyond-sentence';

const figure = { label: 'Total', shown: '640.0', times: 3.2, middle: '200.0', count: 41, like: 'G4-12' };

it('says how far, and by what', () => {
  expect(beyondSentence(figure)).toBe(
    'Total, 640.0, is 3.2 times what is usual: the middle one of 41 for G4-12 is 200.0',
  );
  expect(beyondSentence({ ...figure, times: 0.004, like: '' })).toBe(
    'Total, 640.0, is 1 % of what is usual: the middle one of 41 is 200.0',
  );
});
