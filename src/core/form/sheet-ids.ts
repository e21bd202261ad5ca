/** The formula that tells whether an answer must be given. */
export const requireId = (id: string): string => `${id}:require`;
