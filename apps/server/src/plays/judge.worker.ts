import { parentPort, workerData } from 'node:worker_threads';
import {
  compileWiring,
  expand,
  indexProject,
  LineSplitter,
  PlayObserver,
  readProjectText,
  scenesLoadedWith,
} from '@oquel/core';
import { sha256 } from '../sha256.js';
import { LIMITS } from '../limits.js';
import type { FromJudge, JudgeAsk, ToJudge } from './judging.js';

const { document, ask } = workerData as { document: Uint8Array; ask: JudgeAsk };
const port = parentPort!;
const say = (message: FromJudge): void => port.postMessage(message);

/** Judges one sending: pieces of it come in, and each is answered, so that no more come than are dealt with. */
function begin(): void {
  const { project } = readProjectText(new TextDecoder().decode(document));
  const { loadSet, session, tolerance, wiring } = ask;
  const scenes = loadSet === undefined ? undefined : scenesLoadedWith(project, loadSet);
  if (scenes === null) return say({ refused: `there is no load set called ${loadSet}` });
  const compiled = compileWiring(expand(indexProject(project)), {
    sha256,
    ...(scenes ? { scenes } : {}),
  });
  const observer = new PlayObserver(compiled, {
    ...(tolerance === undefined ? {} : { tolerance: Math.round(tolerance * 1e6) }),
    ...(loadSet === undefined ? {} : { loadSet }),
  });
  if (wiring !== undefined)
    observer.take(JSON.stringify({ kind: 'session', session, wiring }), session, 0, session);
  const decoder = new TextDecoder();
  let seen: string[] = [];
  const split = new LineSplitter((line, number) => {
    observer.take(line, session, number, session);
    // Whoever looks on sees the newest of a piece.
    if (seen.length >= LIMITS.plays.watched) seen.shift();
    if (line.length <= LIMITS.plays.watchedLine) seen.push(line);
  });
  port.on('message', (message: ToJudge) => {
    if ('piece' in message) {
      split.push(decoder.decode(message.piece, { stream: true }));
      say({ taken: true, lines: seen });
      seen = [];
      return;
    }
    split.push(decoder.decode());
    split.end();
    observer.end();
    say({ report: observer.report() });
  });
  say({ taken: true });
}

try {
  begin();
} catch (error) {
  say({ refused: error instanceof Error ? error.message : String(error) });
}
