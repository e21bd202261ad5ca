import type { ColumnKind } from '../model';
import { choice } from './choice';
import { date } from './date';
import type { Kind } from './kind';
import { decimal, whole } from './number';
import { reference } from './reference';
import { text } from './text';
import { yesNo } from './yes-no';

export const kinds: Readonly<Record<ColumnKind, Kind>> = { text, whole, decimal, date, 'yes-no': yesNo, choice, reference };
