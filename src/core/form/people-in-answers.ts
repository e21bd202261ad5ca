import { SENDER } from '../expression/person';
import { PEOPLE, type Scope, type Type } from '../expression/type';

const isPerson = (type: Type): boolean => type.t === 'record' && type.table === PEOPLE;

/**
 * Names that hold a person, as one writes them: answers, and columns of records that are looked up
 * (`bed.section_lead`). Not the sender, who approves nothing of their own.
 */
export const peopleInAnswers = (scope: Scope): string[] =>
  namesOf(isPerson, new Map([...scope].filter(([key]) => key !== SENDER)));

/**
 * Names that hold a text or a choice, in the same way: the section of a bed that is looked up
 * (`bed.section`); of the sender their place alone.
 */
export const textsInAnswers = (scope: Scope): string[] =>
  namesOf(({ t }) => t === 'text', scope).filter(
    (name) => !name.startsWith(`${SENDER}.`) || name === `${SENDER}.place`,
  );

const namesOf = (is: (type: Type) => boolean, scope: Scope): string[] =>
  [...scope].flatMap(([key, { type }]): string[] => {
    if (is(type)) return [key];
    if (type.t !== 'record') return [];
    return [...type.fields].filter(([, field]) => is(field.type)).map(([column]) => `${key}.${column}`);
  });
