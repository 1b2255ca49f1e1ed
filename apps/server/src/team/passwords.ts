import { Injectable } from '@nestjs/common';
import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import zxcvbn from '@zxcvbn-ts/language-common';
import { badRequest, busy } from '../http/problem.js';
import { LIMITS } from '../limits.js';

/** OWASP's parameters for scrypt: N = 2^17, r = 8, p = 1, which take 128 MiB. */
const COST = { log: 17, r: 8, p: 1 };
const LENGTH = 32;
const derive = promisify<string, Buffer, number, object, Buffer>(scrypt);
const COMMON = new Set<string>(zxcvbn.dictionary.passwords);

/** Hashes passwords, few at a time. A hash is `scrypt$17$8$1$salt$key`, so that the parameters can grow. */
@Injectable()
export class Passwords {
  private running = 0;
  private readonly waiting: (() => void)[] = [];
  /** Nobody's: for logins that do not exist, which must take as long. */
  private readonly nobodys = this.hash(randomBytes(16).toString('hex'));

  async hash(password: string): Promise<string> {
    const salt = randomBytes(16);
    const { log, r, p } = COST;
    const key = await this.derived(password, salt, COST);
    return ['scrypt', log, r, p, salt.toString('base64'), key.toString('base64')].join('$');
  }
  /** Whether a password is the one of a hash; null stands for no hash, which no password is the one of. */
  async isRight(password: string, hash: string | null): Promise<boolean> {
    const [, log, r, p, salt, key] = (hash ?? (await this.nobodys)).split('$');
    const cost = { log: Number(log), r: Number(r), p: Number(p) };
    const own = await this.derived(password, Buffer.from(salt, 'base64'), cost);
    return timingSafeEqual(own, Buffer.from(key, 'base64')) && hash !== null;
  }

  private async derived(password: string, salt: Buffer, { log, r, p }: typeof COST): Promise<Buffer> {
    await this.turn();
    try {
      // Letters that look the same and are written in two ways are the same.
      const text = password.normalize('NFKC');
      return await derive(text, salt, LENGTH, { N: 2 ** log, r, p, maxmem: 2 ** (log + 11) });
    } finally {
      this.running--;
      this.waiting.shift()?.();
    }
  }
  private async turn(): Promise<void> {
    if (this.running >= LIMITS.team.hashing) {
      if (this.waiting.length >= LIMITS.team.hashingWaiting) throw busy('too many are signing in');
      await new Promise<void>((resolve) => this.waiting.push(resolve));
    }
    this.running++;
  }
}

/** @throws ProblemError 400 that says why a password will not do */
export function checkPassword(password: string, login: string): void {
  const { least, most } = LIMITS.team.password;
  const refuse = (why: string): never => {
    throw badRequest(`this password will not do: ${why}`, { fields: ['password'] });
  };
  if ([...password].length < least) refuse(`it has fewer than ${least} characters`);
  if (password.length > most) refuse(`it has more than ${most} characters`);
  const plain = password.toLowerCase();
  const core = plain.replace(/[^\p{L}]+$/u, '').replace(/^[^\p{L}]+/u, '');
  if (COMMON.has(plain) || COMMON.has(core) || core === '') refuse('it is one of those that are tried first');
  if (new Set(plain).size < 5) refuse('it has fewer than five different characters');
  if (core === login || plain.replaceAll(login, '').length < 6)
    refuse('it is little more than the sign-in name');
}
