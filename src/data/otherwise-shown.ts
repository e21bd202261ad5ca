import { databaseFault } from './field-issues';

/**
 * Whether a statement failed because columns of a table it reads have become restricted, or are so no more,
 * since its transaction began: that read the table where it is shown no longer. Begun again it reads the
 * other.
 */
export function isOtherwiseShown(error: unknown): boolean {
  const { code = '', message = '' } = databaseFault(error) ?? {};
  return code === '42501'
    ? message.startsWith('permission denied for')
    : code === '42P01' && /"(shown|whole)\./.test(message);
}
