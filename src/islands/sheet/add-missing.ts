import { createContext } from 'react';
import type { Table } from '../../core/table/model';

/** A record that is missing from a table and is to be added now. */
export interface Missing {
  readonly table: Table;
  /** What was looked for and not found. */
  readonly words: string;
  readonly onAdded: (id: string) => void;
}

/** Asks for a missing record to be added; null where nothing is added on the spot. */
export const AddMissing = createContext<((missing: Missing) => void) | null>(null);
