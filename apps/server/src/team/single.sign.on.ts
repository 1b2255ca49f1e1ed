import { Inject, Injectable } from '@nestjs/common';
import { parse, serialize } from 'cookie';
import type { Request, Response } from 'express';
import * as oidc from 'openid-client';
import { CONFIG, type Config } from '../config.js';
import { ProblemError } from '../http/problem.js';
import { isLoopback } from '../settings.js';
import { noTeam } from './team.problems.js';

/** What a sign-in that is under way has to be compared with; the browser keeps it for as long. */
const COOKIE = '__Host-oquel-sso';
const SECURE = { path: '/', httpOnly: true, secure: true, sameSite: 'lax' } as const;
const MINUTES = 10;
const BACK = '/api/sso/back';

/** Whom the provider vouches for. */
export interface Vouched {
  subject: string;
  login: string;
  name: string;
}

/** Signing in by a provider of OpenID Connect: discovery, code flow with PKCE, state and nonce. */
@Injectable()
export class SingleSignOn {
  private found: Promise<oidc.Configuration> | null = null;

  constructor(@Inject(CONFIG) private readonly config: Config) {}

  /** What the button says; null where there is no provider. */
  get name(): string | null {
    return this.config.issuer === null ? null : this.config.issuerName;
  }

  /** Where the browser goes to. @throws ProblemError 404, 502 */
  async begin(response: Response): Promise<string> {
    const provider = await this.provider();
    const verifier = oidc.randomPKCECodeVerifier();
    const [state, nonce] = [oidc.randomState(), oidc.randomNonce()];
    const url = oidc.buildAuthorizationUrl(provider, {
      redirect_uri: this.own(BACK).href,
      scope: 'openid profile email',
      code_challenge: await oidc.calculatePKCECodeChallenge(verifier),
      code_challenge_method: 'S256',
      state,
      nonce,
    });
    const kept = JSON.stringify({ verifier, state, nonce });
    response.append('Set-Cookie', serialize(COOKIE, kept, { ...SECURE, maxAge: MINUTES * 60 }));
    return url.href;
  }

  /** Whom the provider has sent back. @throws ProblemError 401, 404, 502 */
  async end(request: Request, response: Response): Promise<Vouched> {
    const provider = await this.provider();
    const { verifier, state, nonce } = keptIn(request);
    response.append('Set-Cookie', serialize(COOKIE, '', { ...SECURE, maxAge: 0 }));
    try {
      // Its own address, whatever the request says of the host.
      const tokens = await oidc.authorizationCodeGrant(provider, this.own(request.originalUrl), {
        pkceCodeVerifier: verifier,
        expectedState: state,
        expectedNonce: nonce,
        idTokenExpected: true,
      });
      const claims = tokens.claims()!;
      const more = await this.more(provider, tokens.access_token, claims);
      const login = textOf(more.preferred_username) ?? textOf(more.email) ?? claims.sub;
      return { subject: `${claims.iss} ${claims.sub}`, login, name: textOf(more.name) ?? login };
    } catch (error) {
      throw notVouched(error instanceof Error ? error.message : String(error));
    }
  }

  /** The provider may tell names in the token, or only where it is asked for them. */
  private async more(
    provider: oidc.Configuration,
    token: string,
    claims: oidc.IDToken,
  ): Promise<Record<string, unknown>> {
    if (claims.name !== undefined || provider.serverMetadata().userinfo_endpoint === undefined) return claims;
    return { ...claims, ...(await oidc.fetchUserInfo(provider, token, claims.sub)) };
  }
  private own(path: string): URL {
    const { url, host, port } = this.config;
    return new URL(path, url ?? `http://${host}:${port}`);
  }
  /** What the provider says of itself; asked again after a failure. */
  private async provider(): Promise<oidc.Configuration> {
    const { issuer, issuerClient, issuerSecret } = this.config;
    if (issuer === null || issuerClient === null) throw noTeam();
    const address = new URL(issuer);
    // The signature of what it says is looked at, too. Without TLS on this machine alone.
    const execute = [oidc.enableNonRepudiationChecks];
    if (isLoopback(address.hostname)) execute.push(oidc.allowInsecureRequests);
    this.found ??= oidc.discovery(address, issuerClient, issuerSecret ?? undefined, undefined, { execute });
    try {
      return await this.found;
    } catch (error) {
      this.found = null;
      const detail = `the provider at ${issuer} does not answer as it should: ${(error as Error).message}`;
      throw new ProblemError(502, 'no-provider', 'No single sign-on', detail);
    }
  }
}

function keptIn(request: Request): { verifier: string; state: string; nonce: string } {
  try {
    const kept = JSON.parse(parse(request.headers.cookie ?? '')[COOKIE] ?? '') as Record<string, unknown>;
    const { verifier, state, nonce } = kept;
    if (typeof verifier === 'string' && typeof state === 'string' && typeof nonce === 'string') {
      return { verifier, state, nonce };
    }
  } catch {
    // Somebody has come back who had not begun here, or too late.
  }
  throw notVouched('this sign-in was not begun in this browser, or too long ago');
}
function textOf(value: unknown): string | null {
  return typeof value === 'string' && value.trim() !== '' ? value.trim().slice(0, 100) : null;
}
export function notVouched(why: string): ProblemError {
  return new ProblemError(
    401,
    'not-vouched',
    'Not signed in',
    `the provider’s answer could not be used: ${why}`,
  );
}
