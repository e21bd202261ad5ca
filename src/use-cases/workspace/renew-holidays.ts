import { ok } from '../../core/kernel/result';
import { readSettings, renewDaysOff } from '../../data/system/workspace';
import { asOwner } from '../../data/transaction';
import { localTime } from './asking';
import { allDaysOff } from './public-holidays';

/** Each night: the holidays of a year that has come near. */
export async function renewHolidays(now = new Date()): Promise<void> {
  await asOwner({ person: '' }, async (tx, { workspace }) => {
    await renewDaysOff(tx, await allDaysOff(await readSettings(tx), localTime(workspace, now)));
    return ok(null);
  });
}
