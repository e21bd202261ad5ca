import { limits } from '../limits';

/**
 * What a browser does before it may send from outside: it looks for a number by which a hash begins with so
 * many zero bits. That takes a person nothing and whoever sends ten thousand a long time, and nobody has to
 * tell buses from hydrants. The hash is of the submission, so that no proof serves twice.
 */
export type Sha256 = (text: string) => Uint8Array;

export const proofText = (link: string, submission: string, number: number): string =>
  `${link} ${submission} ${number}`;

export function isProof(hash: Uint8Array, bits: number = limits.proofBits): boolean {
  for (let bit = 0; bit < bits; bit++)
    if (((hash[bit >> 3] ?? 0xff) & (0x80 >> (bit & 7))) !== 0) return false;
  return true;
}

/** Goes on looking from a number for so many; null where none of them is one. */
export function foundProof(
  sha256: Sha256,
  { link, submission }: { readonly link: string; readonly submission: string },
  from: number,
  most: number,
  bits: number = limits.proofBits,
): number | null {
  for (let number = from; number < from + most; number++)
    if (isProof(sha256(proofText(link, submission, number)), bits)) return number;
  return null;
}
