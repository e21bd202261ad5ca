const threes = new Intl.NumberFormat('en-GB');

/** The digits of a whole number with narrow spaces between threes, the same on every machine: -1 234 567. Of any length; a sign stays. */
export function inThrees(whole: string): string {
  const sign = whole.startsWith('-') ? '-' : '';
  return sign + threes.format(BigInt(whole.slice(sign.length))).replaceAll(',', '\u202f');
}
