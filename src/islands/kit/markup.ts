import { micromark } from 'micromark';

const UUID = '[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}';
/** Where a text says that a picture of its form stands: `![What it shows](picture:…)`. */
const PICTURE = new RegExp(`\\]\\(picture:(${UUID})\\)`, 'g');
const OURS = new RegExp(`^/api/pictures/${UUID}$`);
/** As micromark writes it; what is within the quotes has none. */
const IMAGE = /<img src="([^"]*)" alt="([^"]*)"(?: title="[^"]*")? \/>/g;

export const pictureText = (id: string, shows: string): string =>
  `![${shows.replace(/[[\]\n]/g, ' ')}](picture:${id})`;

/**
 * CommonMark as HTML. What is HTML in it is shown as text, and addresses that would run something lead
 * nowhere (micromark's own rules). Pictures are those of forms alone, others become their words: nothing is
 * fetched from elsewhere.
 */
export function asHtml(text: string): string {
  const html = micromark(text.replace(PICTURE, '](/api/pictures/$1)'), {
    extensions: [{ disable: { null: ['htmlFlow', 'htmlText'] } }],
  });
  return html.replace(IMAGE, (image, address: string, shows: string) =>
    OURS.test(address) ? image.replace('<img ', '<img loading="lazy" ') : shows,
  );
}
