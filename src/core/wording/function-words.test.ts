import { expect, it } from 'vitest';
import { builtins } from '../expression/functions/list';
import { functionWords } from './function-words';

it('every function has its sentence, and nothing else does', () => {
  expect(Object.keys(functionWords()).sort()).toEqual([...builtins.keys()].sort());
});
