import type { RecordData } from '../../contract/answers-from-server';
import type { Column } from '../../core/table/model';
import { ArrowRight, ExternalLink } from '../kit/icons';
import { speak, spoken } from '../../core/wording/speak';

interface Props {
  readonly column: Column;
  readonly record: RecordData;
  /** The keys of the tables that references point to, by their ids. */
  readonly targets: Readonly<Record<string, string>>;
}

/** Where a cell leads: to the record it names, or out by mail, telephone or web. */
export function CellLink({ column, record, targets }: Props) {
  const to = addressIn(column, record, targets);
  if (to === null) return null;
  const isOutside = column.kind === 'web-address';
  const Icon = column.kind === 'reference' ? ArrowRight : ExternalLink;
  return (
    <a
      href={to}
      aria-label={`${linkWords()[column.kind] ?? speak`Open`} ${column.label}`}
      className="inline-flex align-[-2px] text-lichen-deep"
      {...(isOutside && { target: '_blank', rel: 'noreferrer' })}
    >
      <Icon size={15} aria-hidden />
    </a>
  );
}

const linkWords = spoken((): Readonly<Partial<Record<Column['kind'], string>>> => ({
  'e-mail': speak`Write to`,
  phone: speak`Call`,
}));

function addressIn(column: Column, { cells, named }: RecordData, targets: Props['targets']): string | null {
  const cell = cells[column.id];
  if (typeof cell !== 'string' || cell === '') return null;
  switch (column.kind) {
    case 'reference': {
      const [key, id] = [targets[column.target ?? ''], named[column.id]];
      return key === undefined || id === undefined ? null : `/tables/${key}/${id}`;
    }
    case 'e-mail':
      return `mailto:${encodeURIComponent(cell).replace('%40', '@')}`;
    case 'phone':
      return `tel:${cell.replace(/[^+\d]/g, '')}`;
    case 'web-address':
      return /^https?:\/\//i.test(cell) ? cell : null;
    default:
      return null;
  }
}
