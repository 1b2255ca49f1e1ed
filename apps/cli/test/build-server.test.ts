import { execFileSync, spawnSync } from 'node:child_process';
import { copyFileSync, existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it } from '@jest/globals';

const at = (path: string): string => fileURLToPath(new URL(`../../../${path}`, import.meta.url));

/** What docs/build-servers.md says, done in a real repository, with the one file that is the command line. */
describe('a build server', () => {
  let repo: string;
  const OQUEL = `${process.execPath} oquel.mjs`;
  const git = (...args: string[]): string =>
    execFileSync('git', ['-c', 'user.name=ines', '-c', 'user.email=ines@veyra.example', ...args], {
      cwd: repo,
      encoding: 'utf8',
    });
  const sh = (command: string): void => {
    execFileSync('bash', ['-c', command.replaceAll('npx oquel', OQUEL)], { cwd: repo });
  };
  const gate = (): { status: number | null; out: string } => {
    const { status, stdout, stderr } = spawnSync(
      'bash',
      [at('docs/examples/gate.sh'), 'wiring', 'wiring-baseline.json', 'reports'],
      { cwd: repo, encoding: 'utf8', env: { ...process.env, OQUEL } },
    );
    return { status, out: stdout + stderr };
  };
  /** Changes one file of the folder; true words are put in the place of others. */
  const change = (file: string, from: string, to: string): void => {
    const path = join(repo, 'wiring', file);
    const text = readFileSync(path, 'utf8');
    expect(text).toContain(from);
    writeFileSync(path, text.replace(from, to));
  };

  beforeAll(() => {
    repo = mkdtempSync(join(tmpdir(), 'oquel-repo-'));
    git('init', '--quiet');
    copyFileSync(at('dist/oquel.mjs'), join(repo, 'oquel.mjs'));
    const doc = readFileSync(at('docs/build-servers.md'), 'utf8');
    const [once] = /^ {4}npx oquel convert[^]*?(?=\n\n[^ ])/m.exec(doc)!;
    writeFileSync(join(repo, 'storm-over-veyra.json'), readFileSync(at('demo/storm-over-veyra.json')));
    for (const line of once.split('\n').map((l) => l.trim())) {
      if (line.startsWith('npx')) sh(line);
      else if (line.startsWith('git add')) git(...line.split(' ').slice(1));
      else git('commit', '--quiet', '-m', 'Wiring, and what its audit says today');
    }
  });

  it('lets what was there before pass, errors and all', () => {
    const { status, out } = gate();
    expect(out).toContain('horn-7');
    expect(status).toBe(0);
    expect(existsSync(join(repo, 'reports/oquel.xml'))).toBe(true);
    expect(JSON.parse(readFileSync(join(repo, 'reports/oquel.sarif'), 'utf8'))).toMatchObject({
      version: '2.1.0',
    });
  });

  it('lets a change pass that brings warnings alone, and the diff shows what was changed', () => {
    change('scenes/summit-refuge.json', '"id": "mat-5-dim",', '"id": "mat-5-dim",\n      "enabled": false,');
    const diff = git('diff', '--numstat').trim().split('\n');
    expect(diff).toHaveLength(1);
    expect(diff[0]).toMatch(/^1\t0\t/);
    expect(gate().status).toBe(0);
  });

  it('stops a change that brings an error, and names it; the commit before still passes', () => {
    git('commit', '--quiet', '-am', 'The beacon stays lit');
    change('scenes/summit-refuge.json', '"at": "winch-5",', '"at": "winch-55",');
    const { status, out } = gate();
    expect(status).toBe(1);
    expect(out).toContain('winch-55');
    expect(readFileSync(join(repo, 'reports/oquel.xml'), 'utf8')).toMatch(/<failure[^]*winch-55/);
    git('stash', '--quiet');
    expect(gate().status).toBe(0);
    git('stash', 'pop', '--quiet');
  });

  it('passes again once the baseline is taken anew with the change', () => {
    sh('npx oquel audit wiring --gate none --format json > wiring-baseline.json');
    git('commit', '--quiet', '-am', 'A winch that comes next week');
    expect(gate().status).toBe(0);
  });

  it('says where a file cannot be read, with an exit code of its own', () => {
    change('scenes/summit-refuge.json', '"kind": "scene",', '"kind": "scene"');
    const { status, out } = gate();
    expect(status).toBe(2);
    expect(out).toContain('summit-refuge.json');
  });
});
