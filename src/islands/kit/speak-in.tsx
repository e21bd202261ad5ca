import { createElement, Fragment, type ReactNode } from 'react';
import { speak } from '../../core/wording/speak';

/** Stands for the place of an element while a sentence is put together: no text has it. */
const MARK = '\u0001';

/** As `speak`, of a sentence that holds elements: each stands where its language puts it. */
export function speakIn(english: TemplateStringsArray, ...values: readonly ReactNode[]): ReactNode {
  const isPlain = (value: ReactNode): value is string | number =>
    typeof value === 'string' || typeof value === 'number';
  const said = speak(english, ...values.map((value, i) => (isPlain(value) ? value : `${MARK}${i}${MARK}`)));
  const parts = said.split(MARK).map((part, i) => (i % 2 === 0 ? part : values[Number(part)]));
  return createElement(Fragment, null, ...parts);
}
