import { micromark } from 'micromark';

/** CommonMark as HTML. What is HTML in it is shown as text, and addresses that would run something lead nowhere (micromark's own rules). */
export const asHtml = (text: string): string =>
  micromark(text, { extensions: [{ disable: { null: ['labelStartImage', 'htmlFlow', 'htmlText'] } }] });
