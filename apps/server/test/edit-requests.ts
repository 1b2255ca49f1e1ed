import type { Change, Project } from '@oquel/core';
import { TestServer } from './harness.js';
import { engage } from './small-project.js';

export const SCENE = 'pylon-ridge';
export const insert = (brake: string, bindingId = 'gust-2', index = 1): Change => ({
  op: 'insert',
  list: 'bindings',
  asset: SCENE,
  index,
  item: engage(bindingId, brake),
});

/** What is asked about one project of a server; which one, is asked each time. */
export class EditRequests {
  constructor(private readonly of: () => { server: TestServer; id: string }) {}

  readonly edit = (base: number, changes: Change[], more: object = {}): ReturnType<TestServer['post']> =>
    this.post('edits', { base, changes, label: 'wired brake-2', who: 'ines', ...more });
  readonly step = (way: 'undo' | 'redo', base: number): ReturnType<TestServer['post']> =>
    this.post(way, { base, who: 'ines' });
  readonly stored = async (): Promise<Project> => {
    const { server, id } = this.of();
    return (await server.get(`/api/projects/${id}/document`)).body as Project;
  };
  readonly bindingIds = async (): Promise<string[]> =>
    (await this.stored()).assets[0].bindings!.map((b) => b.id);
  /** What another process would read, without this one's cache. */
  readonly storedForAnother = async (): Promise<string> => {
    const { server, id } = this.of();
    const other = await TestServer.start(server.databaseUrl);
    const { text } = await other.get(`/api/projects/${id}/document`);
    await other.stop();
    return text;
  };
  private post(what: string, body: object): ReturnType<TestServer['post']> {
    const { server, id } = this.of();
    return server.post(`/api/projects/${id}/${what}`, body);
  }
}
