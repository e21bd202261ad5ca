import type { Workspace } from '../../core/workspace';
import { origin } from '../../data/origin';
import { storedWorkspace } from '../../data/system/workspace';

/** What holds for the whole workspace, also to those who are not signed in: no more than its pages show. */
export const readWorkspace = (): Promise<Pick<Workspace, 'name' | 'zone' | 'locale'>> => storedWorkspace();

/** Where the workspace is reached, for what leads to it from elsewhere. */
export const workspaceOrigin = (): string => origin();
