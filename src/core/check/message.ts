import { toShown, toStored } from '../expression/stored-text';
import type { Scope, Type } from '../expression/type';
import type { Value } from '../expression/value';
import { formatsHere } from '../formats/formats';
import { showDate } from '../formats/days';
import { valueWords } from './with-values';

/** Part of a message: words as they are, or in braces what is to be worked out, FEEL as stored text. */
type MessagePart =
  { readonly t: 'words'; readonly text: string } | { readonly t: 'value'; readonly expression: string };

const VALUE = /\{([^{}]*)\}/g;

/** “At most {product.max_rate} ml” in its parts. */
export function messageParts(message: string): MessagePart[] {
  const parts: MessagePart[] = [];
  let at = 0;
  for (const found of message.matchAll(VALUE)) {
    if (found.index > at) parts.push({ t: 'words', text: message.slice(at, found.index) });
    parts.push({ t: 'value', expression: (found[1] ?? '').trim() });
    at = found.index + found[0].length;
  }
  if (at < message.length) parts.push({ t: 'words', text: message.slice(at) });
  return parts;
}

/** The expressions in a message, in their order. */
export const valuesIn = (message: string): string[] =>
  messageParts(message).flatMap((part) => (part.t === 'value' ? [part.expression] : []));

/** A message as its owner writes it, with names in braces. */
export const messageShown = (message: string, scope: Scope): string =>
  message.replace(VALUE, (_, stored: string) => `{${toShown(stored, scope)}}`);
export const messageStored = (shown: string, scope: Scope): string =>
  shown.replace(VALUE, (_, text: string) => `{${toStored(text, scope)}}`);
/** Where it is told without a sheet to take values from. */
export const messageWithout = (message: string): string => message.replace(VALUE, '…');

/** The id of the formula that works a value of a message out. */
export const messageId = (check: string, index: number): string => `${check}:m${index}`;

/** A message with its values; one that is not there to be worked out stays as it was written. */
export function filledMessage(
  message: string,
  valueOf: (index: number) => { readonly type: Type; readonly value: Value } | null,
): string {
  let index = 0;
  return messageParts(message)
    .map((part) => {
      if (part.t === 'words') return part.text;
      const found = valueOf(index++);
      return found === null ? `{${part.expression}}` : words(found.value, found.type);
    })
    .join('');
}

/** Texts without quotes and days as they are written elsewhere: they stand in a sentence. */
function words(value: Value, { t }: Type): string {
  if (typeof value !== 'string') return valueWords(value, formatsHere().numbers);
  return t === 'date' ? showDate(value) : value;
}
