import { picturesOf, type Project } from '@oquel/core';
import { readPicture, storePicture } from './client.js';

/** The pictures that a project uses, with their bytes; those that are not stored are left out. One after another: each may be large. */
export async function picturesFrom(id: string, project: Project): Promise<[string, Uint8Array][]> {
  const found: [string, Uint8Array][] = [];
  for (const name of picturesOf(project)) {
    const bytes = await readPicture(id, name);
    if (bytes) found.push([name, bytes]);
  }
  return found;
}

/** Stores the pictures that came with a document. @throws Failure */
export async function storePictures(id: string, pictures: readonly [string, Uint8Array][]): Promise<void> {
  for (const [, bytes] of pictures) await storePicture(id, bytes);
}
