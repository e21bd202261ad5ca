/** Hands a text to the browser as a file to keep. */
export function saveFile(name: string, text: string, type = 'application/xml'): void {
  const address = URL.createObjectURL(new Blob([text], { type }));
  const link = Object.assign(document.createElement('a'), { href: address, download: name });
  link.click();
  URL.revokeObjectURL(address);
}
