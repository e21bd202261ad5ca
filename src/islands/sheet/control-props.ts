import type { FieldQuestion } from '../../core/form/design';
import type { Place } from '../../core/form/cells';
import type { Sheet } from '../../core/form/sheet';
import type { Table } from '../../core/table/model';

export interface ControlProps {
  readonly question: Exclude<FieldQuestion, { kind: 'calculated' }>;
  readonly place: Place;
  readonly sheet: Sheet;
  readonly formId: string;
  readonly submission: string | null;
  readonly tables: ReadonlyMap<string, Table>;
  readonly invalid: boolean;
  readonly describedBy?: string | undefined;
  readonly onChange: () => void;
  readonly onTouch: () => void;
  /**
   * Where files on their way are kept until they have arrived: the draft they belong to, and the key of
   * whoever fills it. Left out, nowhere.
   */
  readonly device?: { readonly draft: string; readonly key: string } | undefined;
  /** That one more file is on its way, or one less. */
  readonly onComing?: ((by: 1 | -1) => void) | undefined;
  /** In a row: no box of its own. */
  readonly bare?: boolean;
  /** What the control is called when no label stands beside it. */
  readonly name: string;
}
