import { expect, it } from '@jest/globals';
import pg from 'pg';
import { newDatabase, TestServer } from './harness.js';

it('data of a newer Oquel are refused with what to do, and stay as they are', async () => {
  const url = await newDatabase();
  await (await TestServer.start(url)).stop();
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  await client.query("insert into kysely_migration values ('999-later', now()::text)");
  await expect(TestServer.start(url)).rejects.toThrow(
    'The server could not start: the data were made by a newer Oquel (999-later); start that version',
  );
  await client.query("delete from kysely_migration where name = '999-later'");
  await client.end();
  await (await TestServer.start(url)).stop();
});

it('there are as many projects as the setting says', async () => {
  const server = await TestServer.start(await newDatabase(), { OQUEL_PROJECTS: '1' });
  const document = { format: 'oquel.project/1', name: 'Only one', assets: [] };
  const id = await server.import(document);
  expect((await server.post('/api/projects', document)).body).toMatchObject({
    status: 409,
    type: 'urn:oquel:problem:too-many',
  });
  const copy = await server.post(`/api/projects/${id}/copy`, {
    name: 'Two',
    key: '7f0f4a53-6a0e-4f0e-9c54-0c9f3a8f1c11',
  });
  expect(copy.status).toBe(409);
  await server.stop();
});
