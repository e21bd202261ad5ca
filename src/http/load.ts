import type { AstroGlobal } from 'astro';
import { forbidden, type Refusal } from '../core/kernel/refusal';
import { fail, type Result } from '../core/kernel/result';
import type { Context } from '../use-cases/workspace/asking';
import { contextOf } from './endpoint';

/** First data of a page, by the use case that also serves its endpoint. */
export async function load<T>(
  page: Pick<AstroGlobal, 'locals'>,
  useCase: (context: Context) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  const context = contextOf(page);
  return context === null ? fail(forbidden('sign-in')) : useCase(context);
}
