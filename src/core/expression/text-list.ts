const PIECE = /"((?:[^"\\]|\\.)*)"|[^\s,[\]"][^,[\]"]*/g;

/** The texts of a FEEL text or list of texts, and whatever else stands in it, as it is written. */
export function unquotedTexts(feel: string): {
  readonly texts: readonly string[];
  readonly others: readonly string[];
} {
  const texts: string[] = [];
  const others: string[] = [];
  for (const [whole, quoted] of feel.matchAll(PIECE)) {
    if (quoted !== undefined) texts.push(quoted.replace(/\\(.)/g, '$1'));
    else if (whole.trim() !== '' && whole.trim() !== 'null') others.push(whole.trim());
  }
  return { texts, others };
}
