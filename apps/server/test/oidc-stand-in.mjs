// A provider of OpenID Connect on loopback, of a package of its own: arguments are its port, and where it sends people back to.
import Provider from 'oidc-provider';

const [port, back] = process.argv.slice(2);
const provider = new Provider(`http://127.0.0.1:${port}`, {
  clients: [{ client_id: 'oquel', client_secret: 'a secret between the two', redirect_uris: [back] }],
  pkce: { required: () => true },
  claims: { openid: ['sub'], profile: ['name', 'preferred_username'] },
  cookies: { keys: ['only for tests'] },
  findAccount: (_context, id) => ({
    accountId: id,
    claims: () => ({
      sub: id,
      name: `${id[0].toUpperCase()}${id.slice(1)} Elsewhere`,
      preferred_username: id,
    }),
  }),
});
provider.listen(Number(port), '127.0.0.1', () => process.stdout.write('ready\n'));
