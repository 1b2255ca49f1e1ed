/**
 * Every bound of the server in one place. Sizes are in bytes of what is unpacked, times in milliseconds. Bounds of the
 * documents themselves are the core's.
 */
import { MOST_PICTURE_BYTES } from '@oquel/core';

import { readSettings } from './settings.js';

/** What is set, which holds in worker threads, too. One that is wrong is reported by whoever starts the server. */
function given(): ReturnType<typeof readSettings> {
  const none = { DATABASE_URL: 'none' };
  try {
    return readSettings({ ...none, ...process.env });
  } catch {
    return readSettings(none);
  }
}
const SET = given();
const KiB = 1024;
const MiB = 1024 * KiB;
const DAY = 86_400_000;

export const LIMITS = {
  /** An idle connection is kept so long: longer than clients and proxies keep theirs, so that none is closed under a request. */
  keepAlive: 65_000,
  body: {
    /** A whole document: a project, a replacement, a build. */
    document: SET.documentMiB * MiB,
    /** Everything else that is sent. */
    json: SET.bodyMiB * MiB,
    /** Bodies above this are large: few of them are read at a time, and a worker deals with them. */
    large: 256 * KiB,
    /** Large bodies that are read at a time, and that wait for their turn. */
    largeAtOnce: 2,
    largeWaiting: 8,
    largeWait: 30_000,
    /** A picture under a plan. */
    picture: MOST_PICTURE_BYTES,
  },
  database: {
    connections: SET.connections,
    connect: 5_000,
    statement: SET.statement,
    lock: SET.lock,
    /** In a worker, where whole projects are stored. */
    heavyConnections: 2,
    heavyStatement: 10 * SET.statement,
  },
  heavy: {
    /** Threads for documents and long edits, and for audits; tasks that wait in front of each. */
    threads: 2,
    waiting: 16,
    /** A task that takes longer is ended. */
    time: 300_000,
    auditTime: 120_000,
    /** Memory of a thread, in MiB. A task that needs more is refused. */
    memory: 1_900,
    /** Of it, for what has just been made: with little, most of a long edit is carried over again and again. */
    young: 192,
    /** A project of more text than this is opened and sent by a worker. */
    project: 1 * MiB,
  },
  projects: {
    /** Projects in one list. */
    listed: SET.projects,
    /** Days after which a deleted project is gone; how often, and how soon after the start, that is looked for. */
    binDays: SET.binDays,
    binEvery: 3_600_000,
    binFirst: 5_000,
    /** Text of the open projects that one process keeps. */
    cache: 256 * MiB,
    /** Requests that wait for the same project. */
    waiting: 100,
  },
  edits: {
    /** Own edits that are said to be ahead of undo, and of redo. */
    steps: 20,
    /** Edits, and bytes of their changes, in one answer. A client that misses more opens the project again. */
    answered: 500,
    answeredBytes: 8 * MiB,
    /** Edits looked at in one go when an edit is compared with what came before it. */
    page: 200,
    /** Edits named where one cannot be stored. */
    named: 50,
    /** Keys of edits that one was made on top of. */
    seen: 1_000,
  },
  live: {
    /** Windows that one stream may speak for. */
    windows: 100,
    /** Presence is reported at most so often. */
    presence: 1_000,
    beat: 10_000,
    gone: 30_000,
    quiet: 5_000,
  },
  plays: {
    /** Bytes of one sending, how long it may take, and how many are judged at a time. */
    body: 4 * 1024 * MiB,
    time: 30 * 60_000,
    atOnce: 2,
    /** Pieces of a sending that wait for the thread that judges it. */
    ahead: 8,
    /** Plays that a project keeps: the oldest goes first. */
    kept: 500,
    /** Lines of a piece that those who look on are shown, and how long one may be. */
    watched: 100,
    watchedLine: 2 * KiB,
    /** Text of one report. */
    report: 16 * MiB,
  },
  team: {
    /** A session ends after this time, or when nothing was heard of it for the second one. */
    session: 30 * DAY,
    idle: 7 * DAY,
    /** When a session was last seen is written down so often. */
    seen: 60_000,
    /** Sessions of one account; the oldest goes first. */
    sessions: 20,
    invitation: 7 * DAY,
    /** Invitations that are open, in all. */
    invitations: 500,
    /** Tries in vain after which one has to wait: for an account, and for an address. */
    triesOfAccount: 5,
    triesOfAddress: 30,
    /** The longest that one waits; after so long without a try they are forgotten. */
    wait: 300_000,
    forgotten: 3_600_000,
    /** Passwords that are hashed at a time, 128 MiB each, and that wait for it. */
    hashing: 2,
    hashingWaiting: 32,
    password: { least: 12, most: 200 },
    /** Days that a token holds, at the most. */
    tokenDays: 400,
    tokens: 100,
    /** Entries of the security log in one answer. */
    logged: 500,
  },
  retention: {
    /** Days that history and builds stay at the least, and at the most where it is asked for. */
    leastDays: 7,
    mostDays: 3650,
    /** The last edits of each project stay, however old. */
    lastEdits: 100,
  },
  rate: { window: 10_000, requests: SET.requests },
} as const;
