import { spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { freePort } from './harness.js';
import { TestTeam } from './team-harness.js';

const STAND_IN = fileURLToPath(new URL('oidc-stand-in.mjs', import.meta.url));
let team: TestTeam;
let provider: ChildProcess;
let issuer: string;

beforeAll(async () => {
  const [port, own] = [await freePort(), await freePort()];
  issuer = `http://127.0.0.1:${port}`;
  const back = `http://127.0.0.1:${own}/api/sso/back`;
  provider = spawn(process.execPath, [STAND_IN, String(port), back], {
    env: { ...process.env, NODE_OPTIONS: '' },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  await new Promise((resolve) => provider.stdout!.once('data', resolve));
  team = await TestTeam.start({
    PORT: String(own),
    OQUEL_OIDC_ISSUER: issuer,
    OQUEL_OIDC_CLIENT: 'oquel',
    OQUEL_OIDC_SECRET: 'a secret between the two',
    OQUEL_OIDC_NAME: 'the valley’s own',
  });
});
afterAll(async () => {
  await team.stop();
  provider.kill();
});

/** A browser, by hand: keeps the cookies of each host, follows where it is sent. */
class Browser {
  private readonly cookies = new Map<string, Map<string, string>>();

  async go(
    url: string,
    form?: Record<string, string>,
  ): Promise<{ status: number; to: string | null; url: string }> {
    const { host } = new URL(url);
    const own = this.cookies.get(host) ?? new Map<string, string>();
    this.cookies.set(host, own);
    const answer = await fetch(url, {
      method: form ? 'POST' : 'GET',
      headers: { Cookie: [...own].map(([k, v]) => `${k}=${v}`).join('; ') },
      body: form ? new URLSearchParams(form) : undefined,
      redirect: 'manual',
    });
    for (const set of answer.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(set)!;
      if (value === '') own.delete(name);
      else own.set(name, value);
    }
    const to = answer.headers.get('location');
    return { status: answer.status, to: to === null ? null : new URL(to, url).href, url };
  }
  /** Follows until it is sent nowhere any more, or back to Oquel. */
  async follow(url: string): Promise<string> {
    let at = url;
    for (let i = 0; i < 20; i++) {
      if (at.startsWith(team.server.url)) return at;
      const { to } = await this.go(at);
      if (to === null) return at;
      at = to;
    }
    throw new Error(`it is sent about: ${at}`);
  }
  /** Signs in at the provider; returns the address that it is sent back to. */
  async vouched(who: string): Promise<string> {
    const { to } = await this.go(`${team.server.url}/api/sso`);
    const login = await this.follow(to!);
    const asked = await this.go(login, { prompt: 'login', login: who, password: 'any' });
    const consent = await this.follow(asked.to!);
    if (consent.startsWith(team.server.url)) return consent;
    const agreed = await this.go(consent, { prompt: 'consent' });
    return this.follow(agreed.to!);
  }
  async session(): Promise<{ account: { id: string; name: string; isAdministrator: boolean } | null }> {
    const own = this.cookies.get(new URL(team.server.url).host)!;
    const { body } = await team.server.call('GET', '/api/session', undefined, {
      Cookie: [...own].map(([k, v]) => `${k}=${v}`).join('; '),
    });
    return body as { account: { id: string; name: string; isAdministrator: boolean } | null };
  }
}

describe('single sign-on', () => {
  it('is offered by its name', async () => {
    expect((await team.server.get('/api/session')).body).toMatchObject({ sso: 'the valley’s own' });
  });

  it('gives whoever is vouched for an account of no role, the same each time', async () => {
    const ada = new Browser();
    const back = await ada.vouched('ada');
    expect(await ada.go(back)).toMatchObject({ status: 302, to: `${team.server.url}/` });
    const { account } = await ada.session();
    expect(account).toMatchObject({ name: 'Ada Elsewhere', isAdministrator: false });
    const again = new Browser();
    await again.go(await again.vouched('ada'));
    expect((await again.session()).account?.id).toBe(account?.id);
  });

  it('gives somebody whose name is taken another one', async () => {
    await team.person('Bo Elsewhere');
    const bo = new Browser();
    await bo.go(await bo.vouched('bo'));
    expect((await bo.session()).account?.name).toBe('Bo Elsewhere 2');
  });

  it('lets nobody in whose account was ended', async () => {
    const kim = new Browser();
    await kim.go(await kim.vouched('kim'));
    const { account } = await kim.session();
    await team.chief.call('PATCH', `/api/people/${account!.id}`, { isEnded: true });
    const again = new Browser();
    expect((await again.go(await again.vouched('kim'))).to).toBe(`${team.server.url}/#not-signed-in`);
    expect((await again.session()).account).toBeNull();
  });

  it.each([
    ['in another browser', (url: string) => url, false],
    ['with another state', (url: string) => url.replace(/state=[^&]+/, 'state=x'), true],
    ['with another code', (url: string) => url.replace(/code=[^&]+/, 'code=x'), true],
    [
      'by another issuer',
      (url: string) => url.replace(/iss=[^&]+/, 'iss=https%3A%2F%2Felsewhere.example'),
      true,
    ],
  ])('does not take an answer %s', async (_, changed, isOwn) => {
    const one = new Browser();
    const back = changed(await one.vouched('eve'));
    const used = isOwn ? one : new Browser();
    expect((await used.go(back)).to).toBe(`${team.server.url}/#not-signed-in`);
    expect((await used.session()).account).toBeNull();
  });

  it('takes an answer once', async () => {
    const pat = new Browser();
    const back = await pat.vouched('pat');
    await pat.go(back);
    expect((await pat.go(back)).to).toBe(`${team.server.url}/#not-signed-in`);
  });

  it('says so where the provider is away', async () => {
    const away = await TestTeam.start({ OQUEL_OIDC_ISSUER: 'http://127.0.0.1:9', OQUEL_OIDC_CLIENT: 'x' });
    expect((await away.server.get('/api/sso')).body).toMatchObject({
      status: 502,
      type: 'urn:oquel:problem:no-provider',
    });
    await away.stop();
  });
});
