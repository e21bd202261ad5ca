import { describe, expect, it } from 'vitest';
import { asHtml, pictureText } from './markup';

describe('marked-up text', () => {
  it('has headings, lists, emphasis and links', () => {
    expect(
      asHtml('# Before you begin\n\n- **Wear gloves**\n- see [the sheet](https://quillmere.example/safety)'),
    ).toBe(
      '<h1>Before you begin</h1>\n<ul>\n<li><strong>Wear gloves</strong></li>\n<li>see <a href="https://quillmere.example/safety">the sheet</a></li>\n</ul>',
    );
  });

  it('shows pictures of the form, with words for who does not see them', () => {
    const id = '01900000-0000-7000-a000-0000000000aa';
    expect(asHtml(`Here: ${pictureText(id, 'The [main] tap')}`)).toBe(
      `<p>Here: <img loading="lazy" src="/api/pictures/${id}" alt="The  main  tap" /></p>`,
    );
  });

  it('runs nothing and fetches nothing', () => {
    expect(asHtml('<script>alert(1)</script> <b onclick="x()">bold</b>')).not.toMatch(/<(script|b)\b/);
    expect(asHtml('[here](javascript:alert(1))')).toBe('<p><a href="">here</a></p>');
    expect(asHtml('![spy](https://elsewhere.example/pixel.png)')).toBe('<p>spy</p>');
    for (const address of [
      '/api/pictures/../people',
      '//elsewhere.example/x',
      'data:image/png;base64,AA',
      '/api/files/x',
    ])
      expect(asHtml(`![a "b" <c>](${address} "t")`)).not.toContain('<img');
  });
});
