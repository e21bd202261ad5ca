import type { RE2JS } from 're2js';
import { TEXT, YES_NO, listOf } from '../type';
import type { Value } from '../value';
import { a, type Builtin } from './builtin';

/**
 * Patterns run on RE2's automaton, whose time is linear in the text; the engine built into JavaScript doubles its time
 * with each character of a text like `aaaa…!` against `^(a+)+$`.
 */
const LONGEST_PATTERN = 500;
/** Texts beyond this are answers of nobody; 20 000 characters is the longest there is. */
const LONGEST_TEXT = 100_000;
const kept = new Map<string, RE2JS | null>();
let engine: typeof RE2JS | null = null;

/**
 * The engine is as large as all the rest of the language, so it is loaded where a form has patterns. Until it is there they cannot be told,
 * and no check breaks for it; the server, which decides, always has it.
 */
export async function loadPatterns(): Promise<void> {
  engine ??= (await import('re2js')).RE2JS;
}

/** A pattern made ready, remembered; null when it is none, too long, or asks for what linear time cannot give. */
function pattern(text: string, flags: Value): RE2JS | null {
  if (engine === null) return null;
  const key = `${typeof flags === 'string' ? flags : ''}/${text}`;
  const known = kept.get(key);
  if (known !== undefined) return known;
  if (kept.size > 200) kept.clear();
  const made = compiled(text, typeof flags === 'string' ? flags : '', engine);
  kept.set(key, made);
  return made;
}

function compiled(text: string, flags: string, re: typeof RE2JS): RE2JS | null {
  if (text.length > LONGEST_PATTERN || /[^imsx]/.test(flags)) return null;
  const bits = [...flags].reduce(
    (all, flag) =>
      all | (flag === 'i' ? re.CASE_INSENSITIVE : flag === 'm' ? re.MULTILINE : flag === 's' ? re.DOTALL : 0),
    0,
  );
  const plain = flags.includes('x') ? text.replace(/\s+/g, '') : text;
  try {
    return re.compile(plain, bits);
  } catch {
    return null;
  }
}

/** `$1` to `$9` are groups, `$0` the whole, `\$` a dollar and `\\` a backslash, as XPath's `fn:replace` has them. */
const replacementParts = (written: string): readonly (string | number)[] =>
  (written.match(/\\[\\$]|\$\d|[^$\\]+|[$\\]/g) ?? []).map((part) =>
    /^\$\d$/.test(part) ? Number(part.slice(1)) : part.replace(/^\\(?=[\\$])/, ''),
  );

export const patternFunctions: readonly Builtin[] = [
  {
    name: 'matches',
    ways: [{ takes: [a(TEXT), a(TEXT), a(TEXT)], optional: 1, gives: YES_NO }],
    run: ([text = null, written = null, flags = null], _, meter) => {
      const found = ready(text, written, flags);
      return found === null ? null : (meter.spend(found.text.length), found.re.matcher(found.text).find());
    },
  },
  {
    name: 'replace',
    ways: [{ takes: [a(TEXT), a(TEXT), a(TEXT), a(TEXT)], optional: 1, gives: TEXT }],
    run: ([text = null, written = null, by = null, flags = null], _, meter) => {
      const found = ready(text, written, flags);
      if (found === null || typeof by !== 'string') return null;
      meter.spend(found.text.length * (1 + by.length));
      return replaced(found.re, found.text, by);
    },
  },
  {
    name: 'split',
    ways: [{ takes: [a(TEXT), a(TEXT)], gives: listOf(TEXT) }],
    run: ([text = null, written = null], _, meter) => {
      const found = ready(text, written, null);
      return found === null ? null : (meter.spend(found.text.length), found.re.split(found.text, -1));
    },
  },
];

function ready(text: Value, written: Value, flags: Value): { re: RE2JS; text: string } | null {
  if (typeof text !== 'string' || typeof written !== 'string' || text.length > LONGEST_TEXT) return null;
  const re = pattern(written, flags);
  return re && { re, text };
}

/** Every match, from left to right, by what `by` makes of it; a group that took no part gives nothing. */
function replaced(re: RE2JS, text: string, by: string): string {
  const [matcher, parts] = [re.matcher(text), replacementParts(by)];
  let out = '';
  let at = 0;
  while (matcher.find()) {
    out +=
      text.slice(at, matcher.start()) +
      parts
        .map((part) =>
          typeof part === 'string' ? part : part <= matcher.groupCount() ? (matcher.group(part) ?? '') : '',
        )
        .join('');
    at = matcher.end();
  }
  return out + text.slice(at);
}
