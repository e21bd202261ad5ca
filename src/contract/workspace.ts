import { z } from 'zod';
import type { NamedDay } from '../core/closed-days';
import { dateForms, languages, numberForms, type Formats } from '../core/formats/formats';
import { limits } from '../core/limits';

const time = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/);
/** ISO 3166: a country, perhaps with a part of it. */
const place = z.string().regex(/^([A-Z]{2}(-[A-Z0-9]{1,4})?)?$/);

const formats = {
  language: z.enum(languages),
  dates: z.enum(dateForms),
  numbers: z.enum(numberForms),
  firstDay: z.number().int().min(1).max(7),
};

/** What somebody wants otherwise than everybody here; what is not named is as the workspace has it. */
export const keepOwnFormats = z.object(formats).partial().strict();
export type OwnFormatsInput = z.infer<typeof keepOwnFormats>;

/** How somebody reads and writes, and how everybody does who did not choose. */
export interface OwnFormatsData {
  readonly own: OwnFormatsInput;
  readonly house: Formats;
}

export const keepWorkspace = z
  .object({
    /** The version that was looked at. */
    version: z.number().int(),
    name: z.string().trim().max(limits.label),
    zone: z.string().max(60),
    currency: z.string().regex(/^([A-Z]{3})?$/),
    formats: z.object(formats).strict(),
    workdays: z.array(z.number().int().min(1).max(7)).max(7),
    opens: time,
    closes: time,
    holidaysOf: place,
    closed: z
      .array(
        z
          .object({ from: z.iso.date(), until: z.iso.date(), name: z.string().trim().max(limits.label) })
          .strict(),
      )
      .max(limits.closedDays),
  })
  .strict();
export type WorkspaceInput = z.infer<typeof keepWorkspace>;

export const holidaysAsked = z.object({ of: place }).strict();

/** A country or a part of one, by its code. */
export interface Place {
  readonly code: string;
  readonly label: string;
}

/** The public holidays of a place from today on, and the parts it has with holidays of their own. */
export interface HolidaysData {
  readonly days: readonly NamedDay[];
  readonly parts: readonly Place[];
}

export interface WorkspaceData {
  readonly settings: WorkspaceInput;
  readonly holidays: HolidaysData;
  readonly countries: readonly Place[];
  /** IANA names and ISO 4217 codes this machine knows. */
  readonly zones: readonly string[];
  readonly currencies: readonly string[];
  /** ISO date of the workspace. */
  readonly today: string;
}
