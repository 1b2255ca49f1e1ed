import type { Change, PlayReport, Project } from '@oquel/core';
import createClient from 'openapi-fetch';
import { textOf } from './body-text.js';
import { ApiProblem, failureOf, RequestCancelled, Unreachable } from './problem.js';
import type { components, paths } from './schema.js';

type Schemas = components['schemas'];
export type OpenedProject = Omit<Schemas['OpenedDto'], 'document'> & { document: Project };
export type ProjectLine = Schemas['ProjectDto'];
export type LoggedEdit = Omit<Schemas['LoggedEditDto'], 'changes'> & { changes: Change[] };
/** Edits after a version, and what undo and redo would take. */
export type Edits = Omit<Schemas['EditsDto'], 'edits'> & { edits: LoggedEdit[] };
export type HistoryStep = Schemas['HistoryStepDto'];
/** Who asks for an edit, what they had seen, and what their window has. */
export type Asking = Omit<Schemas['StepDto'], 'version'>;

export type Build = Schemas['BuildDto'];
/** A window that has a project open. */
export type PresentWindow = Schemas['PresentDto'];

/** A request without an answer is given up after this time; one that sends or fetches a whole document may take longer. */
const LIMIT_MS = 15_000;
const LONG_MS = 300_000;
/** Where the server says how long a body is before it is compressed. */
const BODY_BYTES = 'Oquel-Body-Bytes';

export const api = createClient<paths>({ baseUrl: globalThis.location.origin });

export async function settle<T>(
  call: Promise<{ data?: unknown; error?: unknown; response: Response }>,
): Promise<T> {
  let answer;
  try {
    answer = await call;
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError')
      throw new RequestCancelled('The request was cancelled', { cause: error });
    throw new Unreachable('the server does not answer', { cause: error });
  }
  const { data, error, response } = answer;
  if (response.ok) return data as T;
  const failure = failureOf(response.status, error);
  if (failure instanceof ApiProblem && failure.is('sign-in')) signedOut.happened();
  throw failure;
}
/** Hears that the server does not know any more who asks. */
export const signedOut = { happened: (): void => undefined };
export const soon = (): { signal: AbortSignal } => ({ signal: AbortSignal.timeout(LIMIT_MS) });
const long = (cancel?: AbortSignal): { signal: AbortSignal } => {
  const late = AbortSignal.timeout(LONG_MS);
  return { signal: cancel ? AbortSignal.any([late, cancel]) : late };
};

export function listProjects(): Promise<ProjectLine[]> {
  return settle(api.GET('/api/projects', soon()));
}
/** Whether a project passes its gate; it is audited if that is not known. */
export function gateOf(id: string, signal: AbortSignal): Promise<Schemas['GateDto']> {
  return settle(api.GET('/api/projects/{id}/gate', { params: { path: { id } }, signal }));
}
export function setProjectState(id: string, state: ProjectLine['state']): Promise<void> {
  return settle(api.PATCH('/api/projects/{id}', { params: { path: { id } }, body: { state }, ...soon() }));
}
export function copyProject(id: string, name: string): Promise<Schemas['CopiedDto']> {
  const body = { name: name.slice(0, 200), key: crypto.randomUUID() };
  return settle(api.POST('/api/projects/{id}/copy', { params: { path: { id } }, body, ...long() }));
}
export function openProject(id: string, author: string): Promise<OpenedProject> {
  return settle(api.GET('/api/projects/{id}', { params: { path: { id }, query: { author } }, ...long() }));
}
/**
 * The JSON text of an {@link OpenedProject}, for more than one to parse.
 * `heard` says how many bytes of how many have come; the second is 0 where the server does not say.
 */
export async function openedText(
  id: string,
  author: string,
  cancel: AbortSignal,
  heard: (bytes: number, of: number) => void,
): Promise<string> {
  const params = { path: { id }, query: { author } };
  const call = api.GET('/api/projects/{id}', { params, parseAs: 'stream', ...long(cancel) });
  const [stream, { response }] = [await settle<ReadableStream<Uint8Array>>(call), await call];
  const of = Number(response.headers.get(BODY_BYTES) ?? 0);
  return textOf(stream, (bytes) => heard(bytes, of));
}
/** Sends the text as it is, so that the server can say exactly where it is broken. */
export function importDocument(text: string, cancel?: AbortSignal): Promise<Schemas['ImportedDto']> {
  const query = { key: crypto.randomUUID() };
  return settle(api.POST('/api/projects', { params: { query }, ...asText(text), ...long(cancel) }));
}
/** Where a stored picture is to be had; for drawings. */
export function pictureHref(id: string, name: string): string {
  return `/api/projects/${id}/pictures/${name}`;
}
export function storePicture(id: string, bytes: Uint8Array): Promise<Schemas['PictureDto']> {
  const body = new Blob([bytes as Uint8Array<ArrayBuffer>]);
  const raw = { body: body as unknown as string, bodySerializer: (b: unknown) => b as Blob };
  const headers = { 'Content-Type': 'application/octet-stream' };
  return settle(
    api.POST('/api/projects/{id}/pictures', { params: { path: { id } }, ...raw, headers, ...long() }),
  );
}
/** The bytes of a picture; null where it is not stored. */
export async function readPicture(id: string, name: string): Promise<Uint8Array | null> {
  const answer = await fetch(pictureHref(id, name), long());
  return answer.ok ? new Uint8Array(await answer.arrayBuffer()) : null;
}
export function sendEdit(id: string, body: Schemas['EditDto']): Promise<Edits> {
  const limit = body.changes.length > 500 ? long() : soon();
  return settle(api.POST('/api/projects/{id}/edits', { params: { path: { id } }, body, ...limit }));
}
export function sendStep(id: string, way: 'undo' | 'redo', body: Schemas['StepDto']): Promise<Edits> {
  return settle(api.POST(`/api/projects/{id}/${way}`, { params: { path: { id } }, body, ...soon() }));
}
export function sendTakeBack(id: string, body: Schemas['TakeBackDto']): Promise<Edits> {
  return settle(api.POST('/api/projects/{id}/take-back', { params: { path: { id } }, body, ...soon() }));
}
/** Edits after a version, as many as the server answers at a time. */
export function editsAfter(id: string, after: number, author?: string): Promise<Edits> {
  const query = { after, author };
  return settle(api.GET('/api/projects/{id}/edits', { params: { path: { id }, query }, ...soon() }));
}

/** Sends a document's text as it is, and the rest in the query. */
const asText = (
  text: string,
): { body: never; bodySerializer: (body: unknown) => string; headers: Record<string, string> } => ({
  body: text as never,
  bodySerializer: (body) => body as string,
  headers: { 'Content-Type': 'application/json' },
});
export function sendReplace(
  id: string,
  query: { base: number; label: string; who: string; key?: string; author?: string; have?: number },
  text: string,
): Promise<Edits> {
  const params = { path: { id }, query };
  return settle(api.POST('/api/projects/{id}/replace', { params, ...asText(text), ...long() }));
}
export function listBuilds(id: string): Promise<Build[]> {
  return settle(api.GET('/api/projects/{id}/builds', { params: { path: { id } }, ...soon() }));
}
export function freezeBuild(id: string, build: Schemas['FreezeDto']): Promise<Build> {
  const body = { key: crypto.randomUUID(), ...build };
  return settle(api.POST('/api/projects/{id}/builds', { params: { path: { id } }, body, ...long() }));
}
export function importBuild(
  id: string,
  build: { name: string; note?: string; who: string },
  text: string,
): Promise<Build> {
  const params = { path: { id }, query: { key: crypto.randomUUID(), ...build } };
  return settle(api.POST('/api/projects/{id}/builds/import', { params, ...asText(text), ...long() }));
}
export function sayOfBuild(id: string, build: string, said: Schemas['SayDto']): Promise<Build> {
  const body = { key: crypto.randomUUID(), ...said };
  const params = { path: { id, build } };
  return settle(api.POST('/api/projects/{id}/builds/{build}/verdicts', { params, body, ...soon() }));
}
export function sendRestore(id: string, build: string, body: Schemas['StepDto']): Promise<Edits> {
  const params = { path: { id, build } };
  return settle(api.POST('/api/projects/{id}/builds/{build}/restore', { params, body, ...long() }));
}
/** A build's document or audit, as text: it is parsed where it is used. */
export function buildText(id: string, build: string, part: 'document' | 'audit'): Promise<string> {
  const path = { params: { path: { id, build } }, parseAs: 'text', ...long() } as const;
  const answer =
    part === 'document'
      ? api.GET('/api/projects/{id}/builds/{build}/document', path)
      : api.GET('/api/projects/{id}/builds/{build}/audit', path);
  return settle(answer);
}
export type Play = Schemas['PlayDto'];
export function listPlays(id: string): Promise<Play[]> {
  return settle(api.GET('/api/projects/{id}/plays', { params: { path: { id } }, ...soon() }));
}
export function playReport(id: string, play: string): Promise<PlayReport> {
  return settle(api.GET('/api/projects/{id}/plays/{play}', { params: { path: { id, play } }, ...long() }));
}
/** What all plays say together that are judged by the same wiring as the newest. */
export function playsTogether(id: string): Promise<{ plays: number; report: PlayReport }> {
  return settle(api.GET('/api/projects/{id}/plays/together', { params: { path: { id } }, ...long() }));
}
export function removePlay(id: string, play: string): Promise<void> {
  return settle(api.DELETE('/api/projects/{id}/plays/{play}', { params: { path: { id, play } }, ...soon() }));
}
/** When the token to send plays with was made, if there is one. */
export function playTokenState(id: string): Promise<Schemas['TokenStateDto']> {
  return settle(api.GET('/api/projects/{id}/plays/token', { params: { path: { id } }, ...soon() }));
}
/** A new token, in the place of the one before. */
export function newPlayToken(id: string): Promise<Schemas['TokenDto']> {
  return settle(api.POST('/api/projects/{id}/plays/token', { params: { path: { id } }, ...soon() }));
}
/** Says for which windows a stream speaks. */
export function sendWindows(stream: string, windows: Schemas['WindowDto'][]): Promise<void> {
  const params = { path: { stream } };
  return settle(api.POST('/api/live/{stream}', { params, body: { windows }, ...soon() }));
}
