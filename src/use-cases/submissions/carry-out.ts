import type { Catalogue } from '../../core/catalogue/catalogue';
import type { PathEffect } from '../../core/approval/path';
import type { Refusal } from '../../core/kernel/refusal';
import { ok, unreachable, type Result } from '../../core/kernel/result';
import type { Tx } from '../../data/connect';
import type { Context } from '../workspace/asking';
import { keepRows, type Numbered } from './keep-rows';

/** Carries out what the path asked for, in the transaction that moved it. */
export async function carryOut(
  tx: Tx,
  catalogue: Catalogue,
  context: Context,
  submission: Numbered,
  effects: readonly PathEffect[],
): Promise<Result<null, Refusal>> {
  for (const effect of effects) {
    switch (effect.t) {
      // Whom it asks was written with the move.
      case 'ask':
        break;
      case 'keep-rows': {
        const kept = await keepRows(tx, catalogue, context, submission);
        if (!kept.ok) return kept;
        break;
      }
      default:
        return unreachable(effect);
    }
  }
  return ok(null);
}
