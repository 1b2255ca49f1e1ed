import {
  editsAfter,
  openProject,
  sendEdit,
  sendReplace,
  sendRestore,
  sendStep,
  sendTakeBack,
  type Asking,
  type Edits,
} from '../../api/client.js';
import type { Entry } from './entry.js';
import type { QueueServer } from './ports.js';

/** The server as the queue of a window asks it, over HTTP. */
export function httpServer(id: string, author: string): QueueServer {
  return {
    open: () => openProject(id, author),
    since: (version) => editsAfter(id, version, author),
    send: (entry, have) => send(id, entry, { ...asking(entry), author, have }),
  };
}
function asking({ base, who, key, seen }: Entry): Asking {
  return { base, who, key, ...(seen.length > 0 ? { seen } : {}) };
}
function send(id: string, { job }: Entry, ask: Asking): Promise<Edits> {
  switch (job.way) {
    case 'edit':
      return sendEdit(id, { ...ask, label: job.changeSet.label, changes: job.changeSet.changes });
    case 'undo':
    case 'redo':
      return sendStep(id, job.way, { ...ask, version: job.version ?? undefined });
    case 'take-back':
      return sendTakeBack(id, { ...ask, version: job.version });
    case 'restore':
      return sendRestore(id, job.build, ask);
    case 'replace': {
      // It goes by the query, which has no room for what was seen: a document is looked at against what is stored.
      const { base, who, key, author, have } = ask;
      return sendReplace(id, { base, who, key, author, have, label: job.label }, job.text);
    }
  }
}
