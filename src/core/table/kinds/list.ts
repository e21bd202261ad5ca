import type { ColumnKind } from '../model';
import { choice } from './choice';
import { choices } from './choices';
import { eMail, phone, webAddress } from './contact';
import { date } from './date';
import { files } from './files';
import type { Kind } from './kind';
import { dateTime, time } from './moment';
import { decimal, money, whole } from './number';
import { reference } from './reference';
import { text } from './text';
import { yesNo } from './yes-no';

export const kinds: Readonly<Record<ColumnKind, Kind>> = {
  text,
  whole,
  decimal,
  money,
  date,
  time,
  'date-time': dateTime,
  'yes-no': yesNo,
  choice,
  choices,
  files,
  reference,
  'e-mail': eMail,
  'web-address': webAddress,
  phone,
};
