import { fieldsOfForm, type FieldQuestion, type FormDesign } from './design';

/** The answers by which a record can be found: those that stand in a column as one value. */
export const findable = (design: FormDesign): FieldQuestion[] =>
  fieldsOfForm(design).filter(
    (one) =>
      one.kind !== 'files' &&
      one.kind !== 'choices' &&
      one.kind !== 'calculated' &&
      !(one.kind === 'text' && one.long),
  );
