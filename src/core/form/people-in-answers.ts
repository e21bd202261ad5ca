import { SENDER } from '../expression/person';
import { PEOPLE, type Scope, type Type } from '../expression/type';

const isPerson = (type: Type): boolean => type.t === 'record' && type.table === PEOPLE;

/** Names that hold a person, as one writes them: answers, and columns of records that are looked up (`bed.section_lead`). Not the sender, who approves nothing of their own. */
export const peopleInAnswers = (scope: Scope): string[] =>
  [...scope].flatMap(([key, { type }]): string[] => {
    if (key === SENDER) return [];
    if (isPerson(type)) return [key];
    if (type.t !== 'record') return [];
    return [...type.fields].filter(([, field]) => isPerson(field.type)).map(([column]) => `${key}.${column}`);
  });
