import { limits } from '../limits';
import { plainColumn, type Column } from '../table/model';
import type { FoundColumn } from './found-table';

/** Why something of a table is not as it is there. */
export const leftBehindReasons = [
  'no-right',
  'many-values',
  'structure',
  'bytes',
  'span',
  'place',
  'search',
  'other-type',
  'rounded',
  'domain-rule',
  'choice-labels',
  'reference-elsewhere',
  'reference-several',
  'rules',
  'filled-there',
  'large-numbers',
] as const;
export interface LeftBehind {
  /** The name of the column there; null for the table as a whole. */
  readonly column: string | null;
  readonly why: (typeof leftBehindReasons)[number];
  readonly detail: string;
}

type Carried = Pick<Column, 'kind' | 'decimals' | 'choices'>;

/** The kind a column of another database is here, and what of it stays behind; null where it cannot be carried over at all. */
export function carriedColumn(found: FoundColumn): {
  readonly column: Carried | null;
  readonly left: readonly LeftBehind[];
} {
  const left = (why: LeftBehind['why'], detail = found.type): LeftBehind => ({
    column: found.name,
    why,
    detail,
  });
  if (!found.maySee) return { column: null, left: [left('no-right', '')] };
  const refused = notCarried(found.type);
  if (refused !== null) return { column: null, left: [left(refused)] };
  if (found.labels !== null) {
    const fits =
      found.labels.length <= limits.choices &&
      found.labels.every((label) => label.trim() !== '' && label.length <= 100);
    return fits
      ? {
          column: {
            kind: 'choice',
            decimals: null,
            choices: found.labels.map((label) => ({ code: label, label })),
          },
          left: domainOf(found),
        }
      : { column: plain('text'), left: [left('choice-labels'), ...domainOf(found)] };
  }
  const column = kindOf(found.type);
  return column === null
    ? { column: null, left: [left('other-type')] }
    : {
        column: column.carried,
        left: [...(column.why === null ? [] : [left(column.why)]), ...domainOf(found)],
      };
}

const domainOf = ({ name, domain }: FoundColumn): LeftBehind[] =>
  domain === null ? [] : [{ column: name, why: 'domain-rule', detail: domain }];
const plain = (kind: Column['kind'], decimals: number | null = plainColumn.decimals): Carried => ({
  kind,
  decimals,
  choices: [],
});

function notCarried(type: string): LeftBehind['why'] | null {
  if (type.endsWith('[]')) return 'many-values';
  if (/^(jsonb?|xml|hstore|record)$/.test(type)) return 'structure';
  if (/^bytea$/.test(type)) return 'bytes';
  if (/(range|multirange)$/.test(type) || /^interval/.test(type)) return 'span';
  if (/^(point|line|lseg|box|path|polygon|circle|geometry|geography)/.test(type)) return 'place';
  return /^ts(vector|query)$/.test(type) ? 'search' : null;
}

/** Digits a whole number of this type may have at most. */
const WHOLE: Readonly<Record<string, number>> = { smallint: 5, integer: 10, bigint: 19, oid: 10 };
/** Binary fractions are kept to this many decimals. */
const BINARY_DECIMALS = 6;

function kindOf(type: string): { carried: Carried; why: LeftBehind['why'] | null } | null {
  const as = (carried: Carried, why: LeftBehind['why'] | null = null) => ({ carried, why });
  const digits = WHOLE[type];
  if (digits !== undefined)
    return as(plain('whole', 0), digits > limits.numberDigits ? 'large-numbers' : null);
  const [, precision, scale] = /^numeric(?:\((\d+),(-?\d+)\))?$/.exec(type) ?? [];
  if (type.startsWith('numeric'))
    return numeric(precision === undefined ? null : Number(precision), Number(scale ?? BINARY_DECIMALS));
  if (type === 'real' || type === 'double precision') return as(plain('decimal', BINARY_DECIMALS), 'rounded');
  if (/^(text|citext|name|uuid|inet|cidr|macaddr8?|character( varying)?(\(\d+\))?)$/.test(type))
    return as(plain('text'));
  if (type === 'boolean') return as(plain('yes-no'));
  if (type === 'date') return as(plain('date'));
  if (/^time(\(\d\))? without time zone$/.test(type)) return as(plain('time'));
  return /^timestamp(\(\d\))? with(out)? time zone$/.test(type) ? as(plain('date-time')) : null;
}

function numeric(
  precision: number | null,
  scale: number,
): { carried: Carried; why: LeftBehind['why'] | null } {
  const decimals = Math.min(Math.max(scale, 0), limits.decimals);
  const large = precision === null || precision - scale > limits.numberDigits;
  const why = precision === null || scale > limits.decimals ? 'rounded' : large ? 'large-numbers' : null;
  return { carried: scale <= 0 ? plain('whole', 0) : plain('decimal', decimals), why };
}

/** A default that is nothing but a value, as text; null where it must be calculated there. */
export function plainPreset(preset: string): string | null {
  const quoted = /^'((?:[^']|'')*)'::[a-z_ "()0-9.]+$/i.exec(preset)?.[1];
  if (quoted !== undefined) return quoted.replaceAll("''", "'");
  return /^\(?-?\d+(\.\d+)?\)?$|^(true|false)$/.test(preset) ? preset.replace(/[()]/g, '') : null;
}
