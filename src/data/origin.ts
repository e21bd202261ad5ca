/** Where the workspace is reached: scheme, host and port. */
export const origin = (): string => process.env['SLATE_ORIGIN'] ?? 'http://127.0.0.1:4321';
