import { Inject, Injectable, StreamableFile, type OnModuleDestroy } from '@nestjs/common';
import { Piscina } from 'piscina';
import { CONFIG, type Config } from '../config.js';
import { busy, problemFrom, ProblemError } from '../http/problem.js';
import { LIMITS } from '../limits.js';
import type { Actor } from '../team/actor.js';
import type { HeavyAnswer, HeavyTask } from './tasks.js';

type Done = Extract<HeavyAnswer, { bytes: Uint8Array }>;

/**
 * Whatever takes long, off the event loop: documents and long edits in some threads, audits in others, so that neither
 * waits for the other. Each task has a bound on its time and its memory, each line of waiting tasks on its length.
 */
@Injectable()
export class HeavyService implements OnModuleDestroy {
  private readonly documents: Piscina;
  private readonly audits: Piscina;
  /** Tasks that run or wait, by pool. */
  private readonly taken = new Map<Piscina, number>();

  constructor(@Inject(CONFIG) config: Config) {
    const pool = (ready: number): Piscina =>
      new Piscina({
        filename: new URL('../worker/heavy.worker.js', import.meta.url).href,
        workerData: { databaseUrl: config.databaseUrl },
        maxThreads: LIMITS.heavy.threads,
        minThreads: ready,
        idleTimeout: 30_000,
        resourceLimits: {
          maxOldGenerationSizeMb: LIMITS.heavy.memory,
          maxYoungGenerationSizeMb: LIMITS.heavy.young,
        },
      });
    // Somebody waits for a long edit, so one thread is always there.
    this.documents = pool(1);
    this.audits = pool(0);
  }
  async onModuleDestroy(): Promise<void> {
    await Promise.all([this.documents.destroy(), this.audits.destroy()]);
  }

  /** Tasks that run or wait. */
  get count(): number {
    return [...this.taken.values()].reduce((a, b) => a + b, 0);
  }

  import(body: Buffer, key: string | null, owner: string | null): Promise<StreamableFile> {
    return this.sent({ task: 'import', body, key, owner });
  }
  open(id: string, author: string | null): Promise<StreamableFile> {
    return this.sent({ task: 'open', id, author });
  }
  document(id: string): Promise<Done> {
    return this.run(this.documents, { task: 'document', id }, LIMITS.heavy.time);
  }
  edit(id: string, body: Buffer, by: Actor | null): Promise<StreamableFile> {
    return this.sent({ task: 'edit', id, body, by });
  }
  step(id: string, way: 'undo' | 'redo', dto: object): Promise<StreamableFile> {
    return this.sent({ task: 'step', id, way, dto: { ...dto } });
  }
  takeBack(id: string, dto: object): Promise<StreamableFile> {
    return this.sent({ task: 'takeBack', id, dto: { ...dto } });
  }
  declare(id: string, dto: object, body: Buffer): Promise<StreamableFile> {
    return this.sent({ task: 'declare', id, dto: { ...dto }, body });
  }
  replace(id: string, dto: object, body: Buffer): Promise<StreamableFile> {
    return this.sent({ task: 'replace', id, dto: { ...dto }, body });
  }
  restore(id: string, build: string, dto: object): Promise<StreamableFile> {
    return this.sent({ task: 'restore', id, build, dto: { ...dto } });
  }
  freeze(id: string, dto: object): Promise<StreamableFile> {
    return this.sent({ task: 'freeze', id, dto: { ...dto } });
  }
  importBuild(id: string, dto: object, body: Buffer): Promise<StreamableFile> {
    return this.sent({ task: 'importBuild', id, dto: { ...dto }, body });
  }
  /** An audit; it is given up when nobody waits for it any more. */
  audit(id: string, today: string, left: AbortSignal): Promise<Done> {
    return this.run(this.audits, { task: 'audit', id, today }, LIMITS.heavy.auditTime, left);
  }

  /** The gate of a project. */
  async gate(id: string, today: string, left: AbortSignal): Promise<StreamableFile> {
    return asJson(await this.run(this.audits, { task: 'gate', id, today }, LIMITS.heavy.auditTime, left));
  }

  /** What a project's plays say together. */
  plays(id: string): Promise<StreamableFile> {
    return this.sent({ task: 'plays', id });
  }

  private async sent(task: HeavyTask): Promise<StreamableFile> {
    return asJson(await this.run(this.documents, task, LIMITS.heavy.time));
  }
  private async run(pool: Piscina, task: HeavyTask, time: number, left?: AbortSignal): Promise<Done> {
    const taken = this.taken.get(pool) ?? 0;
    if (taken >= LIMITS.heavy.threads + LIMITS.heavy.waiting) throw busy('too much is being worked on');
    this.taken.set(pool, taken + 1);
    try {
      return await this.perform(pool, task, time, left);
    } finally {
      this.taken.set(pool, this.taken.get(pool)! - 1);
    }
  }
  private async perform(pool: Piscina, task: HeavyTask, time: number, left?: AbortSignal): Promise<Done> {
    const late = AbortSignal.timeout(time);
    const signal = left ? AbortSignal.any([late, left]) : late;
    let answer: HeavyAnswer;
    try {
      answer = (await pool.run(task, { signal, transferList: owned(task) })) as HeavyAnswer;
    } catch (error) {
      throw failure(error, late.aborted, time);
    }
    if ('problem' in answer) throw problemFrom(answer.problem);
    return answer;
  }
}

/** JSON text as an answer. */
export function asJson({ bytes }: Done): StreamableFile {
  return new StreamableFile(bytes, { type: 'application/json; charset=utf-8', length: bytes.byteLength });
}
/** A body that has its memory to itself is handed over instead of being copied. */
function owned(task: HeavyTask): ArrayBuffer[] {
  if (!('body' in task)) return [];
  const { buffer, byteLength } = task.body;
  return buffer.byteLength === byteLength && buffer instanceof ArrayBuffer ? [buffer] : [];
}
function failure(error: unknown, late: boolean, time: number): Error {
  if (late) {
    const detail = `this took longer than ${time / 1000} s and was given up; sent again with the same key, it is done once`;
    return new ProblemError(503, 'too-slow', 'It took too long', detail);
  }
  const { code } = error as { code?: string };
  if (code === 'ERR_WORKER_OUT_OF_MEMORY') {
    const detail = `this needs more than ${LIMITS.heavy.memory} MiB of memory and was given up`;
    return new ProblemError(413, 'too-large', 'Too large', detail);
  }
  return error as Error;
}
