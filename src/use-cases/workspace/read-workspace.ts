import type { FormatsHere, Language } from '../../core/formats/formats';
import { formatsOf } from '../../core/workspace';
import { origin } from '../../data/origin';
import { storedWorkspace } from '../../data/system/workspace';

/** What the organisation calls itself, and the address of its sign; also to those who are not signed in. */
export async function house(): Promise<{ readonly name: string; readonly logo: string | null }> {
  const { name, logo } = await storedWorkspace();
  return { name, logo: logo === null ? null : `/api/pictures/${logo}` };
}

/** How days and numbers are written for those who are not signed in, in a language of their own where that is said. */
export async function formatsOfHouse(language: Language | null = null): Promise<FormatsHere> {
  return formatsOf(await storedWorkspace(), language === null ? {} : { language });
}

/** Where the workspace is reached, for what leads to it from elsewhere. */
export const workspaceOrigin = (): string => origin();
