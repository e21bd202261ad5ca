/** A JSON Schema, draft 2020-12, as far as we write it. */
export interface JsonSchema {
  readonly [keyword: string]: unknown;
}
