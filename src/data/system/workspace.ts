import type { Workspace } from '../../core/workspace';
import { appDatabase } from '../connect';
import { workspace } from './schema';

/** Outside a transaction and without the rest of the catalogue: every page asks. */
export async function storedWorkspace(): Promise<Pick<Workspace, 'name' | 'zone' | 'locale'>> {
  const { name, zone, locale } = workspace;
  const rows = await appDatabase().select({ name, zone, locale }).from(workspace);
  if (rows[0] === undefined) throw new Error('the workspace has no settings');
  return rows[0];
}
