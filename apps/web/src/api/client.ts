import createClient from 'openapi-fetch';
import type { components, paths } from './schema.js';

export type OpenedProject = components['schemas']['OpenedDto'];
export type ProjectLine = components['schemas']['ProjectDto'];
export type Edited = components['schemas']['EditedDto'];
export type LoggedEdit = components['schemas']['LoggedEditDto'];

export type Build = components['schemas']['BuildDto'];
export type Present = components['schemas']['PresentDto'];

const api = createClient<paths>({ baseUrl: globalThis.location.origin });

export interface ProblemBody {
  type: string;
  title: string;
  status: number;
  detail: string;
  problems?: { pointer: string; expected: string; found: string }[];
  [more: string]: unknown;
}

/** The server refused: what it says, for the person and for the code. */
export class ApiProblem extends Error {
  override readonly name = 'ApiProblem';
  constructor(readonly body: ProblemBody) {
    super(body.detail);
  }
  is(type: string): boolean {
    return this.body.type === `urn:oquel:problem:${type}`;
  }
}
/** The server could not be reached, or is in trouble that passes: the same request may be sent again. */
export class Unreachable extends Error {
  override readonly name = 'Unreachable';
}

async function settle<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer;
  try {
    answer = await call;
  } catch {
    throw new Unreachable('the server does not answer');
  }
  const { data, error, response } = answer;
  if (response.ok) return data as T;
  if (response.status >= 500)
    throw new Unreachable((error as ProblemBody | undefined)?.title ?? 'the server is in trouble');
  throw new ApiProblem(
    (error as ProblemBody | undefined) ?? {
      type: 'about:blank',
      title: 'Refused',
      status: response.status,
      detail: `the server answered ${response.status}`,
    },
  );
}

export function listProjects(): Promise<ProjectLine[]> {
  return settle(api.GET('/api/projects'));
}
export function openProject(id: string): Promise<OpenedProject> {
  return settle(api.GET('/api/projects/{id}', { params: { path: { id } } }));
}
/** Sends the text as it is, so that the server can say exactly where it is broken. */
export function importDocument(text: string): Promise<components['schemas']['ImportedDto']> {
  return settle(api.POST('/api/projects', asText(text)));
}
export function sendEdit(id: string, body: components['schemas']['EditDto']): Promise<Edited> {
  return settle(api.POST('/api/projects/{id}/edits', { params: { path: { id } }, body }));
}
export function sendStep(
  id: string,
  way: 'undo' | 'redo',
  body: components['schemas']['StepDto'],
): Promise<Edited> {
  return settle(api.POST(`/api/projects/{id}/${way}`, { params: { path: { id } }, body }));
}
export function sendTakeBack(id: string, body: components['schemas']['TakeBackDto']): Promise<Edited> {
  return settle(api.POST('/api/projects/{id}/take-back', { params: { path: { id } }, body }));
}
export function editsAfter(id: string, after: number): Promise<LoggedEdit[]> {
  return settle(api.GET('/api/projects/{id}/edits', { params: { path: { id }, query: { after } } }));
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
  query: { base: number; label: string; who: string; key: string },
  text: string,
): Promise<Edited> {
  return settle(api.POST('/api/projects/{id}/replace', { params: { path: { id }, query }, ...asText(text) }));
}
export function listBuilds(id: string): Promise<Build[]> {
  return settle(api.GET('/api/projects/{id}/builds', { params: { path: { id } } }));
}
export function freezeBuild(id: string, body: components['schemas']['FreezeDto']): Promise<Build> {
  return settle(api.POST('/api/projects/{id}/builds', { params: { path: { id } }, body }));
}
export function importBuild(
  id: string,
  query: { name: string; note?: string; who: string },
  text: string,
): Promise<Build> {
  return settle(
    api.POST('/api/projects/{id}/builds/import', { params: { path: { id }, query }, ...asText(text) }),
  );
}
export function sayOfBuild(id: string, build: string, body: components['schemas']['SayDto']): Promise<Build> {
  return settle(
    api.POST('/api/projects/{id}/builds/{build}/verdicts', { params: { path: { id, build } }, body }),
  );
}
export function sendRestore(
  id: string,
  build: string,
  body: components['schemas']['StepDto'],
): Promise<Edited> {
  return settle(
    api.POST('/api/projects/{id}/builds/{build}/restore', { params: { path: { id, build } }, body }),
  );
}
/** A build's document or audit, as text: it is parsed where it is used. */
export function buildText(id: string, build: string, part: 'document' | 'audit'): Promise<string> {
  const path = { params: { path: { id, build } }, parseAs: 'text' } as const;
  const answer =
    part === 'document'
      ? api.GET('/api/projects/{id}/builds/{build}/document', path)
      : api.GET('/api/projects/{id}/builds/{build}/audit', path);
  return settle(answer as Promise<{ data?: string; error?: unknown; response: Response }>);
}
export function sendPlace(
  id: string,
  client: string,
  body: components['schemas']['PlaceDto'],
): Promise<unknown> {
  return settle(api.POST('/api/projects/{id}/live/{client}', { params: { path: { id, client } }, body }));
}
