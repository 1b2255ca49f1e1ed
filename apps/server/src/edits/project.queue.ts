import { Injectable } from '@nestjs/common';
import { busy } from '../http/problem.js';
import { LIMITS } from '../limits.js';

/**
 * Lets the edits of one project go one after the other in this process, so that a long one holds up that project alone
 * and never more than one connection.
 */
@Injectable()
export class ProjectQueue {
  private readonly last = new Map<string, { done: Promise<unknown>; waiting: number }>();

  /** @throws ProblemError 503 when too many wait already */
  async run<T>(id: string, work: () => Promise<T>): Promise<T> {
    const line = this.last.get(id) ?? { done: Promise.resolve(), waiting: 0 };
    if (line.waiting >= LIMITS.projects.waiting) throw busy('too many edits of this project wait already');
    line.waiting++;
    const mine = line.done.then(work, work);
    line.done = mine.catch(() => undefined);
    this.last.set(id, line);
    try {
      return await mine;
    } finally {
      line.waiting--;
      if (line.waiting === 0) this.last.delete(id);
    }
  }
}
