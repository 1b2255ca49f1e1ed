import { newDatabase, TestServer, type Answer } from './harness.js';

/** Somebody with a browser of their own: keeps the cookie of the session. */
export class Person {
  cookie = '';
  id = '';
  constructor(
    private readonly server: TestServer,
    readonly name: string,
  ) {}

  async call(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer> {
    const own: Record<string, string> = this.cookie === '' ? {} : { Cookie: this.cookie };
    const answer = await this.server.call(method, path, body, { ...own, ...headers });
    for (const set of answer.headers.getSetCookie()) [this.cookie] = set.split(';');
    return answer;
  }
  get(path: string): Promise<Answer> {
    return this.call('GET', path);
  }
  post(path: string, body: unknown = {}): Promise<Answer> {
    return this.call('POST', path, body);
  }
  /** Accepts an invitation. */
  async join(secret: string): Promise<void> {
    const answer = await this.post('/api/join', {
      secret,
      login: loginOf(this.name),
      name: this.name,
      password: passwordOf(this.name),
    });
    if (answer.status !== 201) throw new Error(answer.text);
    this.id = (answer.body as { id: string }).id;
  }
  async signIn(): Promise<Answer> {
    return this.post('/api/session', { login: loginOf(this.name), password: passwordOf(this.name) });
  }
}
export function loginOf(name: string): string {
  return name.toLowerCase().replaceAll(' ', '.');
}
export function passwordOf(name: string): string {
  return `ropeway ${name} over the gorge`;
}

/** A team's server with its administrator. */
export class TestTeam {
  private constructor(
    readonly server: TestServer,
    readonly chief: Person,
  ) {}

  static async start(env: Record<string, string> = {}, databaseUrl?: string): Promise<TestTeam> {
    const server = await TestServer.start(databaseUrl ?? (await newDatabase()), { OQUEL_TEAM: '1', ...env });
    const chief = new Person(server, 'Ada Chief');
    await chief.join(await server.printed(/\/join#(\S+)/));
    return new TestTeam(server, chief);
  }
  /** Somebody new, with a role in a project. */
  async person(name: string, project: string | null = null, role = 'reader'): Promise<Person> {
    const person = new Person(this.server, name);
    const { body } =
      project === null
        ? await this.chief.post('/api/invitations', { note: name })
        : await this.chief.post(`/api/projects/${project}/invitations`, { note: name, role });
    await person.join((body as { secret: string }).secret);
    return person;
  }
  async project(by: Person, document: unknown): Promise<string> {
    const answer = await by.post('/api/projects', document);
    if (answer.status !== 201) throw new Error(answer.text);
    return (answer.body as { id: string }).id;
  }
  async stop(): Promise<void> {
    await this.server.stop();
  }
}
