import type { Rehearsal, RehearsalsResult } from '@oquel/core';
import type { Rehearsed } from '../workers/auditor-answers.js';
import type { AuditorPort } from './auditor-questions.js';

/** Runs rehearsals in the worker: the one that is looked at first, all of them when nothing else is to be run. */
export class Rehearsing {
  /** Counts single rehearsals that were asked for, and stops. */
  private asked = 0;
  /** A single rehearsal is running. */
  private keptOff = false;
  /** All of them are to be run as soon as nothing else is. */
  private allDue = false;
  private closed = false;

  constructor(
    private readonly auditor: AuditorPort,
    /** Done when the worker knows the last edit. */
    private readonly ready: () => Promise<void>,
    private readonly report: (rehearsed: RehearsalsResult) => void,
  ) {}

  /** Runs one; null if it was stopped. */
  async one(rehearsal: Rehearsal): Promise<Rehearsed | null> {
    const mine = ++this.asked;
    await this.ready();
    // It was stopped, or another one asked for, before it began.
    if (mine !== this.asked) return null;
    this.keptOff = true;
    try {
      return await this.auditor.rehearse(rehearsal);
    } finally {
      this.keptOff = false;
      if (this.allDue) void this.all();
    }
  }
  async all(): Promise<void> {
    this.allDue = true;
    await this.ready();
    // One that is being looked at goes first.
    if (this.keptOff || this.closed) return;
    const rehearsed = await this.auditor.rehearseAll();
    if (!rehearsed || this.closed) return;
    this.allDue = false;
    this.report(rehearsed);
  }
  stop(): void {
    this.asked++;
    this.allDue = false;
    void this.auditor.stopRehearsing();
  }
  close(): void {
    this.closed = true;
  }
}
