import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compileForm } from '../compile-form';
import { everydayForms } from '../../../../demo/everyday-forms';
import { design as treatment, tables } from '../../../../tests/support/designs';
import { allQuestions, groupsOf, type FormDesign } from '../design';
import { addQuestion, asKind, removeQuestion, replaceQuestion, type AskedKind } from '../edit';
import {
  addSection,
  changeSection,
  dissolveSection,
  duplicateQuestion,
  moveSection,
  nudgeQuestion,
  placeQuestion,
} from './arrange';
import { applied, inverted, type DesignChange } from './design-change';
import { differenceOf } from './design-difference';
import { marksOf } from './marks';
import { mergedDesigns } from './merged-designs';

const target = { id: '01900000-0000-7000-8000-000000000009', key: 'copied', label: 'Copied', prefix: 'C' };

/** An edit by its number and what it is done to, so that a run can be told again. */
type Edit = readonly [kind: number, at: number, to: number];
const edits = fc.array(fc.tuple(fc.nat(11), fc.nat(60), fc.nat(60)), { maxLength: 12 });

let made = 0;
const newId = (): string => `n${(made++).toString(36)}x`;
const pick = <T>(list: readonly T[], at: number): T => list[at % list.length] as T;

function edited(design: FormDesign, [kind, at, to]: Edit): FormDesign {
  const question = pick(allQuestions(design), at);
  if (question === undefined) return addQuestion(design, design.sections[0]?.id ?? '', asked('text'));
  const section = pick(design.sections, to);
  const group = pick(groupsOf(design), to);
  switch (kind) {
    case 0:
      return replaceQuestion(design, question.id, (one) => ({ ...one, label: `${one.label}${String(to)}` }));
    case 1:
      return removeQuestion(design, question.id);
    case 2:
      return placeQuestion(design, question.id, {
        section: section.id,
        before: pick([...section.questions.map(({ id }) => id), null], at),
      });
    case 3:
      return group === undefined
        ? design
        : placeQuestion(design, question.id, { group: group.id, before: null });
    case 4:
      return nudgeQuestion(design, question.id, to % 2 === 0 ? 1 : -1);
    case 5:
      return addSection(design, { id: newId(), title: 'More', questions: [] }, section.id);
    case 6:
      return dissolveSection(design, section.id);
    case 7:
      return moveSection(design, section.id, to % 2 === 0 ? 1 : -1);
    case 8:
      return duplicateQuestion(design, question.id, newId, () => target).design;
    case 9:
      return replaceQuestion(design, question.id, (one) =>
        asKind(one, pick<AskedKind>(['text', 'whole', 'choice', 'yes-no'], to), target),
      );
    case 10:
      return {
        ...design,
        checks: [...design.checks.slice(0, to % 3), ...design.checks.slice(at % 3)].slice(0, 1),
      };
    default:
      return changeSection({ ...design, title: `T${String(to)}` }, section.id, { title: `S${String(at)}` });
  }
}

const after = (design: FormDesign, list: readonly Edit[]): FormDesign => list.reduce(edited, design);
const asked = (kind: AskedKind, id = newId()) =>
  asKind({ id, key: id, label: `Question ${id}`, hint: '', required: false }, kind, target);

describe('changes of a design', () => {
  it('make one design of the other, and taken back give the first again', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(treatment, ...everydayForms.map((form) => form.design)),
        edits,
        (design, list) => {
          const wanted = after(design, list);
          const changes = differenceOf(design, wanted);
          expect(applied(design, changes)).toEqual(wanted);
          expect(applied(wanted, inverted(changes))).toEqual(design);
          // As they are sent and stored.
          const sent = JSON.parse(JSON.stringify(changes)) as DesignChange[];
          expect(applied(design, sent)).toEqual(wanted);
        },
      ),
      { numRuns: 400 },
    );
  });

  it('are few: a line that moves far is one change', () => {
    const [section] = treatment.sections;
    const first = section?.questions[0]?.id ?? '';
    const moved = placeQuestion(treatment, first, { section: section?.id ?? '', before: null });
    expect(differenceOf(treatment, moved)).toEqual([
      {
        t: 'move',
        of: { list: 'questions', id: first },
        from: { in: section?.id, after: null },
        to: { in: section?.id, after: section?.questions.at(-1)?.id },
      },
    ]);
    expect(differenceOf(moved, moved)).toEqual([]);
    expect(differenceOf(treatment, { ...treatment })).toEqual([]);
  });

  it('come together in any order where two people touched different things', () => {
    fc.assert(
      fc.property(fc.nat(40), fc.nat(40), fc.nat(40), (at, other, third) => {
        const list = allQuestions(treatment);
        const [mine, theirs, gone] = [pick(list, at), pick(list, other), pick(list, third)];
        fc.pre(new Set([mine.id, theirs.id, gone.id]).size === 3 && gone.kind !== 'rows');
        const label = (design: FormDesign, id: string) =>
          replaceQuestion(design, id, (one) => ({ ...one, label: `${one.label} anew` }));
        const [first, second] = [
          label(treatment, mine.id),
          removeQuestion(label(treatment, theirs.id), gone.id),
        ];
        const one = mergedDesigns(treatment, first, second);
        const two = mergedDesigns(treatment, second, first);
        expect(one.clashes).toEqual([]);
        expect(one.design).toEqual(two.design);
        expect(one.design).toEqual(removeQuestion(label(second, mine.id), gone.id));
      }),
    );
  });

  it('and give a design that can be read, whatever two people did', () => {
    fc.assert(
      fc.property(edits, edits, (mine, theirs) => {
        const merged = mergedDesigns(treatment, after(treatment, mine), after(treatment, theirs)).design;
        const ids = allQuestions(merged).map(({ id }) => id);
        expect(new Set(ids).size).toBe(ids.length);
        expect(() => compileForm(merged, tables)).not.toThrow();
      }),
      { numRuns: 300 },
    );
  });
});

describe('what two people changed both', () => {
  const id = 'qtrplanned';
  const labelled = (label: string) => replaceQuestion(treatment, id, (one) => ({ ...one, label }));

  it('stays as the other has it, and is told', () => {
    const { design, clashes } = mergedDesigns(treatment, labelled('Mine'), labelled('Theirs'));
    expect(design).toEqual(labelled('Theirs'));
    expect(clashes).toHaveLength(1);
    expect(mergedDesigns(treatment, labelled('Same'), labelled('Same')).clashes).toEqual([]);
  });

  it('is kept apart field by field, but another kind comes whole or not at all', () => {
    const hinted = replaceQuestion(labelled('Mine'), id, (one) => ({ ...one, hint: 'My hint' }));
    const both = mergedDesigns(treatment, hinted, labelled('Theirs')).design;
    expect(allQuestions(both).find((one) => one.id === id)).toMatchObject({
      label: 'Theirs',
      hint: 'My hint',
    });
    const asText = replaceQuestion(treatment, id, (one) => asKind(one, 'text', target));
    const asWhole = replaceQuestion(treatment, id, (one) => asKind(one, 'whole', target));
    const kinds = mergedDesigns(treatment, asText, asWhole);
    expect(kinds.design).toEqual(asWhole);
    // What belonged to the kind it had has no place in the one it has now.
    const united = replaceQuestion(asWhole, id, (one) => ({ ...one, unit: 'kg' }) as typeof one);
    expect(mergedDesigns(asWhole, united, asText).design).toEqual(asText);
  });

  it('what was added to a section that is gone stands in another', () => {
    const wide = addSection(
      treatment,
      { id: 'snew', title: 'New', questions: [] },
      treatment.sections[0]?.id ?? '',
    );
    const mine = addQuestion(wide, 'snew', asked('text', 'qmine'));
    const merged = mergedDesigns(wide, mine, dissolveSection(wide, 'snew')).design;
    expect(allQuestions(merged).map((one) => one.id)).toContain('qmine');
  });
});

describe('what is marked on a design', () => {
  it('is what is new, changed or elsewhere, and nothing else', () => {
    expect(marksOf(treatment, treatment).size).toBe(0);
    const [first, second] = allQuestions(treatment);
    if (first === undefined || second === undefined) throw new Error('the design has questions');
    const reworded = replaceQuestion(treatment, second.id, (one) => ({ ...one, label: 'Otherwise' }));
    const more = addQuestion(reworded, treatment.sections[0]!.id, asked('text'));
    const added = allQuestions(more).find(({ id }) => !allQuestions(treatment).some((one) => one.id === id));
    expect(marksOf(treatment, more)).toEqual(
      new Map([
        [added?.id, 'new'],
        [second.id, 'changed'],
      ]),
    );
    // Of two that change places, one is said to have moved.
    expect([...marksOf(treatment, nudgeQuestion(treatment, first.id, 1)).values()]).toEqual(['moved']);
    expect(marksOf(treatment, removeQuestion(treatment, second.id)).has(second.id)).toBe(false);
  });
});
