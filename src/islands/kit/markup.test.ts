import { describe, expect, it } from 'vitest';
import { asHtml } from './markup';

describe('marked-up text', () => {
  it('has headings, lists, emphasis and links', () => {
    expect(
      asHtml('# Before you begin\n\n- **Wear gloves**\n- see [the sheet](https://quillmere.example/safety)'),
    ).toBe(
      '<h1>Before you begin</h1>\n<ul>\n<li><strong>Wear gloves</strong></li>\n<li>see <a href="https://quillmere.example/safety">the sheet</a></li>\n</ul>',
    );
  });

  it('runs nothing and fetches nothing', () => {
    expect(asHtml('<script>alert(1)</script> <b onclick="x()">bold</b>')).not.toMatch(/<(script|b)\b/);
    expect(asHtml('[here](javascript:alert(1))')).toBe('<p><a href="">here</a></p>');
    expect(asHtml('![spy](https://elsewhere.example/pixel.png)')).not.toContain('<img');
  });
});
