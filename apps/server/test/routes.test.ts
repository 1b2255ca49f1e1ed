import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { smallProject } from './small-project.js';
import { TestTeam, type Person } from './team-harness.js';

/** Every route of the description, called by everybody; what each may do is worked out here from the rule beside it. */
const RANK = { nobody: 0, account: 1, reader: 2, designer: 3, lead: 4, administrator: 5 } as const;
type Who = keyof typeof RANK;
interface Route {
  method: string;
  path: string;
  needs: {
    who: 'anybody' | 'account' | 'administrator' | 'reader' | 'designer' | 'lead';
    scope?: string;
    only?: string;
  };
}

let team: TestTeam;
let project: string;
let other: string;
let routes: Route[];
const people = new Map<Who, Person | null>();
const tokens = new Map<string, string>();

beforeAll(async () => {
  team = await TestTeam.start();
  project = await team.project(team.chief, smallProject());
  other = await team.project(team.chief, { ...smallProject(), name: 'Another one' });
  people.set('nobody', null).set('account', await team.person('Ola Outside', other, 'lead'));
  for (const role of ['reader', 'designer', 'lead'] as const) {
    people.set(role, await team.person(`The ${role}`, project, role));
  }
  people.set('administrator', team.chief);
  for (const scope of ['audit', 'declarations', 'plays']) {
    const made = await team.chief.post(`/api/projects/${project}/tokens`, {
      name: scope,
      scopes: [scope],
      days: 1,
    });
    tokens.set(scope, (made.body as { token: string }).token);
  }
  const { paths } = (await team.server.get('/api/openapi.json')).body as {
    paths: Record<string, Record<string, { 'x-oquel-needs'?: Route['needs'] }>>;
  };
  routes = Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({
      method: method.toUpperCase(),
      path,
      needs: operation['x-oquel-needs'] as Route['needs'],
    })),
  );
});
afterAll(() => team.stop());

/** An address of the route that harms nobody: ids that are not there, bodies that are refused. */
function addressOf(path: string, id: string): string {
  const query = path === '/api/live' ? `?stream=${randomUUID()}&projects=${id}` : '';
  return path.replace('{id}', id).replace(/\{[^}]+\}/g, () => randomUUID()) + query;
}
async function statusOf(
  call: (method: string, path: string, body?: unknown) => Promise<{ status: number; type: string }>,
  route: Route,
  id: string,
): Promise<number> {
  const body = route.method === 'GET' || route.method === 'DELETE' ? undefined : { nonsense: true };
  return (await call(route.method, addressOf(route.path, id), body)).status;
}
/** A stream never ends by itself, so only its status is awaited. */
async function headOf(route: Route, id: string, headers: Record<string, string>): Promise<number> {
  const stop = new AbortController();
  const { status } = await fetch(team.server.url + addressOf(route.path, id), {
    headers,
    signal: stop.signal,
  });
  stop.abort();
  return status;
}
function isStream({ path }: Route): boolean {
  return path === '/api/live' || path.endsWith('/plays/live');
}
function isSigningOut({ method, path }: Route): boolean {
  return method === 'DELETE' && path === '/api/session';
}

describe('every route', () => {
  it('says who may call it', () => {
    expect(routes.length).toBeGreaterThan(50);
    expect(routes.filter((r) => (r.needs as Route['needs'] | undefined) === undefined)).toEqual([]);
  });

  it('is refused to whoever has less than its role, and to nobody else', async () => {
    for (const route of routes) {
      for (const [who, person] of people) {
        if (isSigningOut(route) && person) continue;
        const status = isStream(route)
          ? await headOf(route, project, person ? { Cookie: person.cookie } : {})
          : await statusOf(
              (m, p, b) => (person ? person.call(m, p, b) : team.server.call(m, p, b)),
              route,
              project,
            );
        expect({ route, who, status: kindOf(status) }).toEqual({ route, who, status: expected(route, who) });
      }
    }
  });

  it('is, in another project, not there', async () => {
    const lead = people.get('lead')!;
    for (const route of routes.filter((r) => r.path.includes('{id}') && r.needs.only !== 'alone')) {
      const status = isStream(route)
        ? await headOf(route, other, { Cookie: lead.cookie })
        : await statusOf((m, p, b) => lead.call(m, p, b), route, other);
      expect({ route, status }).toEqual({ route, status: 404 });
    }
  });

  it('takes a token of its scope and no other one, in its project alone', async () => {
    for (const route of routes.filter((r) => r.needs.only !== 'alone' && r.needs.who !== 'anybody')) {
      for (const [scope, token] of tokens) {
        const call = (
          method: string,
          path: string,
          body?: unknown,
        ): Promise<{ status: number; type: string }> =>
          team.server.call(method, path, body, { Authorization: `Bearer ${token}` });
        const status = isStream(route)
          ? await headOf(route, project, { Authorization: `Bearer ${token}` })
          : await statusOf(call, route, project);
        const isIts = route.needs.scope === scope;
        expect({ route, scope, isRefused: status === 403 }).toEqual({ route, scope, isRefused: !isIts });
        if (isIts) expect(await statusOf(call, route, other)).toBe(404);
      }
    }
  });
});

type Kind = 'sign in' | 'not allowed' | 'not there' | 'let through' | 'failed';
function kindOf(status: number): Kind {
  // What is refused by a rule is 401 or 403; 404 may be a thing that is not there, which was looked for.
  if (status >= 500) return 'failed';
  return status === 401
    ? 'sign in'
    : status === 403
      ? 'not allowed'
      : status === 404
        ? 'not there'
        : 'let through';
}
function expected({ path, needs }: Route, who: Who): unknown {
  const inProject = path.includes('{id}');
  if (needs.only === 'alone') return 'not there';
  if (needs.who === 'anybody') return expect.stringMatching(/let through|not there/);
  if (who === 'nobody') return 'sign in';
  if (inProject && who === 'account') return 'not there';
  if (RANK[who] >= RANK[needs.who]) return expect.stringMatching(/let through|not there/);
  return 'not allowed';
}
