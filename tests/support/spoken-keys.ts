import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';

/** Every sentence that the screens, mails and messages say, by its English key, with the file it stands in. */
export function spokenKeys(folder: string): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  for (const path of readdirSync(folder, { recursive: true, encoding: 'utf8' }))
    if (/\.(tsx?|astro)$/.test(path) && !/\.test\.tsx?$|^data\//.test(path))
      for (const key of keysIn(readFileSync(join(folder, path), 'utf8')))
        found.set(key, found.get(key) ?? path);
  return found;
}

function keysIn(text: string): string[] {
  const keys: string[] = [];
  const look = (node: ts.Node): void => {
    if (ts.isTaggedTemplateExpression(node) && /^speak(In)?$/.test(node.tag.getText()))
      keys.push(keyOf(node.template));
    if (ts.isCallExpression(node) && /^(counted|plural)$/.test(node.expression.getText()))
      keys.push(...countKeys(node));
    ts.forEachChild(node, look);
  };
  look(ts.createSourceFile('any.tsx', text, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX));
  return keys;
}

const keyOf = (template: ts.TemplateLiteral): string =>
  ts.isTemplateExpression(template)
    ? template.head.text + template.templateSpans.map(({ literal }, i) => `{${i}}${literal.text}`).join('')
    : template.text;

/** What is counted, of `counted(n, 'row')`; the names in a choice of two as well. */
function countKeys({ arguments: [, what] }: ts.CallExpression): string[] {
  if (what === undefined) return [];
  if (ts.isStringLiteral(what)) return [`{0} ${what.text}`];
  return ts.isConditionalExpression(what)
    ? [what.whenTrue, what.whenFalse].flatMap((one) => (ts.isStringLiteral(one) ? [`{0} ${one.text}`] : []))
    : [];
}
