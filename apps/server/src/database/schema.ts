import type { ColumnType, Generated } from 'kysely';

/** What somebody may do in a project. */
export type Role = 'reader' | 'designer' | 'lead';
/** What a token may be used for. */
export type Scope = 'audit' | 'declarations' | 'plays';

/**
 * Tables as Kysely sees them. Bodies are `json`, not `jsonb`: a document is given back exactly as it was put in, with
 * its order of properties and every character, which `jsonb` does not promise.
 */
export interface Tables {
  projects: {
    id: string;
    name: string;
    version: number;
    /** The document without its assets (an empty list in their place). */
    body: Json;
    /** Length of the document's text, about: what decides where it is opened. */
    bytes: ColumnType<string, number | string | undefined, number | string>;
    /** Given by the client that imported it. */
    key: string | null;
    state: Generated<ProjectState>;
    /** Since when it is in that state. */
    state_at: Generated<Date>;
    /** The gate of its newest audit, with the version that was audited. */
    gate: ColumnType<string | null, string | undefined, string>;
    created_at: Generated<Date>;
    updated_at: Generated<Date>;
  };
  assets: { project_id: string; id: string; pos: Big; /** Without placements and bindings. */ body: Json };
  placements: ItemRow;
  bindings: ItemRow;
  edits: {
    project_id: string;
    /** The version that the edit brought about. */
    version: number;
    kind: 'edit' | 'undo' | 'redo';
    /** For an undo or redo, the edit that it takes back or brings again. */
    of_version: number | null;
    /** Of an edit: in force, undone, or undone and no longer to be redone. */
    state: EditState | null;
    label: string;
    who: string;
    /** The browser that it comes from: undo takes one's own edits. */
    author: string | null;
    at: Generated<Date>;
    /** JSON, as text: what it did, and what undoes it. */
    changes: string;
    inverse: string;
    /** Given by the client, so that a request sent twice is done once. */
    key: string | null;
  };
  builds: {
    id: string;
    project_id: string;
    name: string;
    note: string;
    /** Who froze it. */
    who: string;
    at: Generated<Date>;
    /** The project's version that was frozen; null for a document that was put in as a build. */
    version: number | null;
    gate: 'pass' | 'stop';
    /** The hash of its compiled wiring; null for builds from before it was kept. */
    wiring: string | null;
    /** Summary and metrics of its audit. */
    figures: Json;
    /** The findings that were waived, each with its waiver. */
    waived: Json;
    document: Json;
    audit: Json;
    key: string | null;
  };
  build_verdicts: {
    build_id: string;
    n: number;
    verdict: 'through' | 'back';
    who: string;
    at: Generated<Date>;
    reason: string;
    key: string | null;
  };
  pictures: {
    project_id: string;
    /** A hash of the bytes, and the kind. */
    name: string;
    at: Generated<Date>;
    bytes: Buffer;
  };
  plays: {
    id: string;
    project_id: string;
    at: Generated<Date>;
    name: string;
    /** What a list of plays shows. */
    figures: Json;
    report: Json;
  };
  accounts: {
    id: string;
    /** In small letters. */
    login: string;
    /** Which stands in history, waivers and builds. */
    name: string;
    /** Its scrypt hash; null where there is none to sign in with. */
    password: string | null;
    /** By whom it is vouched for elsewhere; null: by its password alone. */
    subject: string | null;
    is_administrator: Generated<boolean>;
    /** When the person left; the account stays, for what it has signed. */
    ended_at: Generated<Date | null>;
    created_at: Generated<Date>;
  };
  sessions: {
    id: string;
    hash: string;
    account_id: string;
    /** The browser, as it calls itself. */
    agent: string;
    created_at: Generated<Date>;
    seen_at: Generated<Date>;
    until: Date;
  };
  members: { project_id: string; account_id: string; role: Role };
  invitations: {
    id: string;
    hash: string;
    is_administrator: Generated<boolean>;
    project_id: string | null;
    role: Role | null;
    /** Of one that sets a new password. */
    account_id: string | null;
    /** Whom it is for, in the words of who made it. */
    note: string;
    made_by: string;
    made_at: Generated<Date>;
    until: Date;
  };
  tokens: {
    id: string;
    hash: string;
    project_id: string;
    name: string;
    scopes: Scope[];
    made_by: string;
    made_at: Generated<Date>;
    until: Date;
    used_at: Date | null;
  };
  sign_in_tries: { key: string; failures: number; at: Generated<Date> };
  security_log: {
    id: Generated<string>;
    at: Generated<Date>;
    what: string;
    who: string;
    from_address: string;
    project_id: string | null;
    detail: string;
  };
  /** Who may send plays; a token is kept as its hash. */
  play_tokens: { project_id: string; hash: string; at: Generated<Date> };
  presence: {
    project_id: string;
    /** One window. */
    client: string;
    /** The connection that speaks for it. */
    stream: string;
    who: string;
    /** The address of what it looks at, from the project on. */
    place: string;
  };
  /** Connections that servers vouch for. */
  streams: { id: string; seen_at: Generated<Date> };
}
export type ProjectState = 'open' | 'archived' | 'deleted';
export type EditState = 'done' | 'undone' | 'dropped';
export interface ItemRow {
  project_id: string;
  asset_id: string;
  id: string;
  /** Orders the items of a list; there are gaps, so that one can be put between two others. */
  pos: Big;
  body: Json;
}
/** Read as text, so that the text is parsed once and nothing of it is lost. */
type Json = ColumnType<string, string, string>;
type Big = ColumnType<string, number | string, number | string>;
/** The two tables of items. */
export type ItemTable = 'placements' | 'bindings';

/** Distance between neighbours when a list is stored anew. */
export const POS_STEP = 1 << 20;
