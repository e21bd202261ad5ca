import type { Builtin } from './builtin';
import { dateFunctions } from './dates';
import { listFunctions } from './lists';
import { logicFunctions } from './logic';
import { numberFunctions } from './numbers';
import { patternFunctions } from './patterns';
import { rangeFunctions } from './ranges';
import { statisticsFunctions } from './statistics';
import { textFunctions } from './texts';
import { workingDayFunctions } from './working-days';

/** Every built-in by its name. */
export const builtins: ReadonlyMap<string, Builtin> = new Map(
  [
    ...statisticsFunctions,
    ...numberFunctions,
    ...textFunctions,
    ...patternFunctions,
    ...listFunctions,
    ...logicFunctions,
    ...dateFunctions,
    ...rangeFunctions,
    ...workingDayFunctions,
  ].map((one) => [one.name, one]),
);
