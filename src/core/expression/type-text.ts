import {
  DATE,
  DATE_TIME,
  DAYS,
  EMPTY,
  MONTHS,
  NUMBER,
  TEXT,
  TIME,
  YES_NO,
  listOf,
  rangeOf,
  type Field,
  type Type,
} from './type';

/** The standard's own names of types. */
const named: Readonly<Record<string, Type>> = {
  number: NUMBER,
  string: TEXT,
  boolean: YES_NO,
  date: DATE,
  time: TIME,
  'date and time': DATE_TIME,
  'days and time duration': DAYS,
  'years and months duration': MONTHS,
  Null: EMPTY,
};

/** A type as the standard writes it: `number`, `list<date>`, `context<a: number, b: list<string>>`; null when it is none. */
export function writtenType(written: string): Type | null {
  const text = written.trim().replace(/\s+/g, ' ');
  const inner = /^(list|range|context) ?<(.*)>$/s.exec(text);
  if (inner === null) return named[text] ?? null;
  const [, kind, body = ''] = inner;
  if (kind === 'context') return contextType(body);
  const of = writtenType(body);
  return of && (kind === 'list' ? listOf(of) : rangeOf(of));
}

function contextType(body: string): Type | null {
  const fields = new Map<string, Field>();
  for (const entry of splitOutside(body)) {
    const at = entry.indexOf(':');
    const type = at < 0 ? null : writtenType(entry.slice(at + 1));
    if (type === null) return null;
    const key = entry.slice(0, at).trim();
    fields.set(key, { id: key, type });
  }
  return { t: 'context', fields };
}

/** Parted at commas that stand in no brackets. */
function splitOutside(body: string): string[] {
  const found = [''];
  let depth = 0;
  for (const sign of body) {
    depth += sign === '<' ? 1 : sign === '>' ? -1 : 0;
    if (sign === ',' && depth === 0) found.push('');
    else found[found.length - 1] += sign;
  }
  return found;
}

/** The inverse; types the standard has no name for (records, rows) are written by what they hold. */
export function typeText(type: Type): string {
  switch (type.t) {
    case 'list':
    case 'range':
      return `${type.t}<${typeText(type.of)}>`;
    case 'rows':
      return `list<${typeText({ t: 'context', fields: type.columns })}>`;
    case 'record':
    case 'context':
      return `context<${[...type.fields].map(([key, field]) => `${key}: ${typeText(field.type)}`).join(', ')}>`;
    default:
      return Object.entries(named).find(([, one]) => one.t === type.t)?.[0] ?? 'Null';
  }
}
