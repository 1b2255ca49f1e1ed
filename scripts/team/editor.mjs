import { randomUUID } from 'node:crypto';
import { sleep } from '../lib/run.mjs';

/** Tries of one edit, and the pause between two. Milliseconds. */
const TRIES = 60;
const PAUSE = 250;

/** Somebody who has joined, with the cookie of their session. */
export function newPerson(proxy, name) {
  return new Person(proxy, name);
}
class Person {
  cookie = '';
  setCookie = '';
  constructor(proxy, name) {
    Object.assign(this, { proxy, name });
  }
  async call(method, path, body, headers = {}) {
    const text = body === undefined ? undefined : JSON.stringify(body);
    const own = {
      ...(this.cookie === '' ? {} : { Cookie: this.cookie }),
      ...(text === undefined
        ? {}
        : { 'Content-Type': 'application/json', 'Content-Length': Buffer.byteLength(text) }),
    };
    const answer = await this.proxy.ask({ method, path, headers: { ...own, ...headers }, body: text });
    for (const set of answer.headers['set-cookie'] ?? []) {
      this.setCookie = set;
      [this.cookie] = set.split(';');
    }
    return { status: answer.status, body: parsed(answer.text) };
  }
  async join(secret) {
    const login = this.name.toLowerCase().replace(' ', '.');
    const answer = await this.call('POST', '/api/join', {
      secret,
      login,
      name: this.name,
      password: `a winch for ${this.name} alone`,
    });
    if (answer.status !== 201) throw new Error(`${this.name} could not join: ${JSON.stringify(answer.body)}`);
  }
}
function parsed(text) {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}

/** Edits without a pause, each until it is confirmed, and listens to what others do. */
export class Editor {
  confirmed = [];
  again = 0;
  error = null;
  /** The newest version that its stream told. */
  heard = 0;
  #over = false;
  #closed = false;
  #stop = () => undefined;

  constructor(person, project, number) {
    Object.assign(this, { person, project, number });
  }
  start() {
    this.editing = this.edit();
    void this.listen();
  }
  async finish() {
    this.#over = true;
    await this.editing;
  }
  close() {
    this.#closed = true;
    this.#stop();
  }

  async edit() {
    for (let i = 0; !this.#over && this.error === null; i++) {
      const id = `p${this.number}n${i}`;
      const item = { id, from: { at: '.', event: 'onA' }, to: { at: '.', action: 'a' } };
      const changes = [{ op: 'insert', list: 'bindings', asset: 'yard', index: 0, item }];
      await this.send({ base: 1, label: id, who: 'x', key: randomUUID(), changes }, id);
      await sleep(20);
    }
  }
  async send(edit, id) {
    for (let n = 0; n < TRIES; n++) {
      const path = `/api/projects/${this.project}/edits`;
      const answer = await this.person
        .call('POST', path, edit)
        .catch((error) => ({ status: 0, body: error.message }));
      if (answer.status === 201) return this.confirmed.push(id);
      // What a window waits for, too: no answer, and an answer that says to come again.
      if (answer.status !== 0 && answer.status < 500) {
        return (this.error = `${answer.status} ${JSON.stringify(answer.body)}`);
      }
      this.again++;
      await sleep(PAUSE);
    }
    this.error = 'was never confirmed';
  }
  async listen() {
    while (!this.#closed) {
      const query = new URLSearchParams({ stream: randomUUID(), projects: this.project });
      const hear = (chunk) => {
        for (const [, version] of chunk.matchAll(/"version":(\d+)/g))
          this.heard = Math.max(this.heard, Number(version));
      };
      hear.stop = (stop) => (this.#stop = stop);
      const headers = { Cookie: this.person.cookie };
      await this.person.proxy
        .ask({ method: 'GET', path: `/api/live?${query}`, headers, hear })
        .catch(() => undefined);
      await sleep(PAUSE);
    }
  }
}
