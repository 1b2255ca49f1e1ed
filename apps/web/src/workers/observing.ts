import {
  compileWiring,
  expand,
  LineSplitter,
  PlayObserver,
  projectHash,
  scenesLoadedWith,
  type PlayReport,
  type ProjectIndex,
} from '@oquel/core';
import { Cancelled, type Report } from './in-slices.js';

/** Judges a file of a game by the project as it is, piece by piece. @throws Cancelled, Error in words for the person */
export async function observeFile(
  index: ProjectIndex,
  file: File,
  loadSet: string | undefined,
  report: Report,
): Promise<PlayReport> {
  const scenes = loadSet === undefined ? undefined : scenesLoadedWith(index.project, loadSet);
  if (scenes === null) throw new Error(`there is no load set called ${loadSet}`);
  const compiled = compileWiring(expand(index), {
    hash: projectHash(index.project),
    ...(scenes ? { scenes } : {}),
  });
  const observer = new PlayObserver(compiled, loadSet === undefined ? {} : { loadSet });
  const decoder = new TextDecoder();
  const split = new LineSplitter((line, number) => observer.take(line, file.name, number));
  let done = 0;
  const reader = file.stream().getReader();
  for (let piece = await reader.read(); !piece.done; piece = await reader.read()) {
    split.push(decoder.decode(piece.value, { stream: true }));
    done += piece.value.byteLength;
    if (!(await report({ doing: 'reading the plays', done, of: file.size }))) {
      await reader.cancel();
      throw new Cancelled();
    }
  }
  split.push(decoder.decode());
  split.end();
  observer.end();
  return observer.report();
}
