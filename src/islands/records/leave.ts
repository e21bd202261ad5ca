import type { KeyboardEvent } from 'react';

/** Where to go once a cell is written. */
export type Leave = 'down' | 'up' | 'right' | 'left' | 'stay';

/** Enter and Tab write the cell and go on, with Shift the other way. */
export function leaveBy({ key, shiftKey }: KeyboardEvent): Leave | null {
  if (key === 'Enter') return shiftKey ? 'up' : 'down';
  if (key === 'Tab') return shiftKey ? 'left' : 'right';
  return null;
}
