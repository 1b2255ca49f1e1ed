/** Offers what was made here as a file to save. */
export function saveFile(name: string, type: string, content: string | Uint8Array): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([content as BlobPart], { type }));
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}
