/** "New accession". A word that is not written in capitals throughout begins small inside a sentence. */
export const newRecordTitle = (word: string): string =>
  `New ${word === word.toUpperCase() ? word : word.charAt(0).toLowerCase() + word.slice(1)}`;
