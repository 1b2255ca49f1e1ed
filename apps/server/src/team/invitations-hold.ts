import { sql } from 'kysely';
import type { Reader } from '../database/database.js';

/** Who makes the invitation of the first start, by which the server itself lets somebody in. */
export const SERVER = 'This server';

/**
 * Withdraws invitations whose makers may no longer make them: their account was ended, or they lost the role that it takes.
 * Cost: the open invitations, which are bounded.
 */
export async function withdrawUnbacked(k: Reader): Promise<void> {
  await sql`
    delete from invitations i where i.made_by <> ${SERVER} and not exists (
      select 1 from accounts a where a.name = i.made_by and a.ended_at is null and (
        a.is_administrator or exists (
          select 1 from members m
          where m.account_id = a.id and m.project_id = i.project_id and m.role = 'lead')))`.execute(k);
}
