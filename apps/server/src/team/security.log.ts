import { Inject, Injectable } from '@nestjs/common';
import type { Request } from 'express';
import { Database, type Reader } from '../database/database.js';
import { LIMITS } from '../limits.js';

/** What is written down. */
export type Logged =
  | 'signed-in'
  | 'sign-in-refused'
  | 'signed-out'
  | 'session-ended'
  | 'password-changed'
  | 'refused'
  | 'invited'
  | 'invitation-withdrawn'
  | 'joined'
  | 'person-changed'
  | 'role-changed'
  | 'token-made'
  | 'token-revoked'
  | 'project-state'
  | 'thinned';

export interface SecurityEntry {
  what: Logged;
  who: string;
  /** The address that the request came from. */
  from: string;
  project?: string | null;
  detail?: string;
}

/** Who signed in, was refused, was given or lost a role. It is added to and never changed; nothing secret stands in it. */
@Injectable()
export class SecurityLog {
  constructor(@Inject(Database) private readonly db: Database) {}

  async write(
    { what, who, from, project = null, detail = '' }: SecurityEntry,
    k: Reader = this.db.k,
  ): Promise<void> {
    await k
      .insertInto('security_log')
      .values({ what, who, from_address: from, project_id: project, detail: detail.slice(0, 1000) })
      .execute();
  }
  /** Entries, the newest first: those before one, as many as one answer holds. */
  async page(before: string | null): Promise<
    {
      id: string;
      at: Date;
      what: string;
      who: string;
      from: string;
      project: string | null;
      detail: string;
    }[]
  > {
    const rows = await this.db.k
      .selectFrom('security_log as l')
      .leftJoin('projects as p', 'p.id', 'l.project_id')
      .select(['l.id', 'l.at', 'l.what', 'l.who', 'l.from_address as from', 'p.name as project', 'l.detail'])
      .$if(before !== null, (q) => q.where('l.id', '<', before!))
      .orderBy('l.id', 'desc')
      .limit(LIMITS.team.logged)
      .execute();
    return rows;
  }
}

/** The address of a request: what a proxy that is trusted says, else who is connected. */
export function addressOf(request: Request): string {
  return request.ip ?? request.socket.remoteAddress ?? '';
}
