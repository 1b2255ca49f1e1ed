import type { ProblemBody } from '../http/problem.js';
import type { Actor } from '../team/actor.js';

/**
 * Work on whole documents and long edits, as it is given to a worker thread. Bodies are what was sent, unpacked; `dto` is
 * what a controller has checked.
 */
export type HeavyTask =
  | { task: 'import'; body: Uint8Array; key: string | null; owner: string | null }
  | { task: 'open'; id: string; author: string | null }
  | { task: 'document'; id: string }
  | { task: 'edit'; id: string; body: Uint8Array; by: Actor | null }
  | { task: 'step'; id: string; way: 'undo' | 'redo'; dto: object }
  | { task: 'takeBack'; id: string; dto: object }
  | { task: 'replace'; id: string; dto: object; body: Uint8Array }
  | { task: 'declare'; id: string; dto: object; body: Uint8Array }
  | { task: 'restore'; id: string; build: string; dto: object }
  | { task: 'audit'; id: string; today: string }
  | { task: 'gate'; id: string; today: string }
  | { task: 'plays'; id: string }
  | { task: 'freeze'; id: string; dto: object }
  | { task: 'importBuild'; id: string; dto: object; body: Uint8Array };

/** What a task comes to: JSON text as UTF-8, or a problem. An error would lose its class on the way between threads. */
export type HeavyAnswer =
  | {
      bytes: Uint8Array;
      /** Of an audit. */ version: number | null;
      /** Of a document. */ name: string | null;
    }
  | { problem: ProblemBody };
