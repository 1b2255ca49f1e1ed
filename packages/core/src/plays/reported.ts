import type {
  Despite,
  Doubled,
  Missing,
  OutOfOrder,
  Raised,
  Served,
  Unexplained,
  Unknown,
} from './play-report.js';
import { missingText } from './words.js';

/** What is reported of plays, by kind: two that have the same key are the same thing, seen again. */
export interface Reported {
  unknown: Unknown;
  unexplained: Unexplained;
  missing: Missing;
  doubled: Doubled;
  order: OutOfOrder;
  despite: Despite;
}
type Fact<T> = Omit<T, 'count' | 'sessions' | 'first'>;

export const REPORTED: { readonly [K in keyof Reported]: (of: Fact<Reported[K]>) => string } = {
  unknown: ({ what, name }) => `${what} ${name}`,
  unexplained: ({ at, action }) => `${at} ${action}`,
  missing: (what) => missingText(what as Missing),
  doubled: ({ owner, binding, at }) => `${owner} ${binding} ${at}`,
  order: ({ late, early }) =>
    `${late.owner} ${late.binding} ${late.at} ${early.owner} ${early.binding} ${early.at}`,
  despite: ({ at, name, reason }) => `${at} ${name} ${reason}`,
};
export const REPORTED_KINDS = Object.keys(REPORTED) as (keyof Reported)[];

export function servedKey({ owner, binding }: Pick<Served, 'owner' | 'binding'>): string {
  return `${owner} ${binding}`;
}
export function raisedKey({ at, event }: Pick<Raised, 'at' | 'event'>): string {
  return `${at}.${event}`;
}
/** Most seen first; what is seen as often stays as it came. */
export function mostFirst<T extends { count: number }>(of: Iterable<T>): T[] {
  return [...of].sort((a, b) => b.count - a.count);
}
