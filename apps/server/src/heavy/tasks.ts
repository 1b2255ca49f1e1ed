import type { BuildImportDto, FreezeDto } from '../builds/build.dto.js';
import type { StepDto, TakeBackDto } from '../edits/edit.dto.js';
import type { ReplaceDto } from '../exchange/replace.dto.js';
import type { ProblemBody } from '../http/problem.js';

/** Work on whole documents and long edits, as it is given to a worker thread. Bodies are what was sent, unpacked. */
export type HeavyTask =
  | { task: 'import'; body: Uint8Array; key: string | null }
  | { task: 'open'; id: string; author: string | null }
  | { task: 'document'; id: string }
  | { task: 'edit'; id: string; body: Uint8Array }
  | { task: 'step'; id: string; way: 'undo' | 'redo'; dto: StepDto }
  | { task: 'takeBack'; id: string; dto: TakeBackDto }
  | { task: 'replace'; id: string; dto: ReplaceDto; body: Uint8Array }
  | { task: 'restore'; id: string; build: string; dto: StepDto }
  | { task: 'audit'; id: string; today: string }
  | { task: 'freeze'; id: string; dto: FreezeDto }
  | { task: 'importBuild'; id: string; dto: BuildImportDto; body: Uint8Array };

/** What a task comes to: JSON text as UTF-8, or a problem. An error would lose its class on the way between threads. */
export type HeavyAnswer =
  | {
      bytes: Uint8Array;
      /** Of an audit. */ version: number | null;
      /** Of a document. */ name: string | null;
    }
  | { problem: ProblemBody };
