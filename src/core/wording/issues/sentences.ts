/** The sentences of an area, by code: each is told the facts of its own code, and what the thing is called. */
export type Sentences<Facts> = {
  readonly [Code in keyof Facts]: (facts: Facts[Code] & { readonly label: string }) => string;
};
