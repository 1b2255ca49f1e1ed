import { spawn } from 'node:child_process';
import { chmodSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { join } from 'node:path';
import { ROOT } from '../lib/root.mjs';
import { capture, sleep } from '../lib/run.mjs';
import { Trouble } from '../lib/say.mjs';

export const NGINX = '/usr/sbin/nginx';
const HOST = 'oquel.example';

/** nginx with the configuration of the recipe; only its ports and the places of its files are others. */
export class Proxy {
  constructor(folder, port, upstream) {
    Object.assign(this, { folder: join(folder, 'nginx'), port, upstream });
    this.url = `https://${HOST}:${port}`;
  }
  async start() {
    mkdirSync(this.folder);
    // Its workers are another user where root starts it.
    chmodSync(join(this.folder, '..'), 0o755);
    const [key, certificate] = ['key.pem', 'certificate.pem'].map((name) => join(this.folder, name));
    const subject = ['-subj', `/CN=${HOST}`, '-addext', `subjectAltName=DNS:${HOST}`];
    const made = await capture(
      'openssl',
      [
        'req',
        '-x509',
        '-newkey',
        'rsa:2048',
        '-nodes',
        '-days',
        '2',
        '-keyout',
        key,
        '-out',
        certificate,
        ...subject,
      ],
      {},
    );
    if (made.code !== 0)
      throw new Trouble(`No certificate could be made: ${made.output}`, 'Install openssl.');
    this.ca = readFileSync(certificate);
    const recipe = readFileSync(join(ROOT, 'docs/team/nginx.conf'), 'utf8')
      .replace('127.0.0.1:4781', `127.0.0.1:${this.upstream[0]}`)
      .replace('127.0.0.1:4782', `127.0.0.1:${this.upstream[1]}`)
      .replace('listen 443 ssl', `listen 127.0.0.1:${this.port} ssl`)
      .replace('/etc/ssl/oquel/certificate.pem', certificate)
      .replace('/etc/ssl/oquel/key.pem', key);
    const places = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map(
      (n) => `${n}_temp_path ${this.folder}/${n};`,
    );
    const whole = `daemon off; pid ${this.folder}/nginx.pid; error_log ${this.folder}/error.log;
events {}
http {
access_log off;
${places.join('\n')}
${recipe}}
`;
    const file = join(this.folder, 'nginx.conf');
    writeFileSync(file, whole);
    this.process = spawn(NGINX, ['-c', file, '-p', this.folder], { stdio: ['ignore', 'inherit', 'inherit'] });
    this.ended = new Promise((resolve) => this.process.once('exit', resolve));
    await sleep(500);
    if (this.process.exitCode !== null) throw new Trouble('nginx did not start.', `See its message above.`);
  }
  async stop() {
    if (!this.process) return;
    this.process.kill('SIGTERM');
    await this.ended;
  }

  /** Asks through it, as a browser does that has its certificate; `hear` gets an answer as it comes. */
  ask({ method, path, headers = {}, body, hear, limit = 15_000 }) {
    return new Promise((resolve, reject) => {
      const options = {
        method,
        path,
        port: this.port,
        host: '127.0.0.1',
        servername: HOST,
        ca: this.ca,
        headers: { Host: `${HOST}:${this.port}`, ...headers },
      };
      const asked = request(options, (answer) => {
        const text = [];
        answer.setEncoding('utf8');
        answer.on('data', (chunk) => (hear ? hear(chunk) : text.push(chunk)));
        answer.on('error', reject);
        answer.on('end', () =>
          resolve({ status: answer.statusCode, headers: answer.headers, text: text.join('') }),
        );
      });
      if (!hear) asked.setTimeout(limit, () => asked.destroy(new Error('no answer in time')));
      asked.on('error', reject);
      asked.end(body);
      hear?.stop?.(() => asked.destroy());
    });
  }
}
