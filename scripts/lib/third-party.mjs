import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './root.mjs';

const WORKSPACES = [
  '',
  'packages/runtime',
  'packages/core',
  'apps/server',
  'apps/web',
  'apps/cli',
  'demo/play',
];

/** The packages of others that Oquel is made of, by the lock file: what each workspace asks for, and all that ship with it. */
export function thirdParty() {
  const { packages } = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8'));
  const direct = new Map();
  for (const workspace of WORKSPACES) {
    const own = packages[workspace];
    if (!own) continue;
    for (const [kind, dependencies] of [
      ['runs', own.dependencies],
      ['builds and tests', own.devDependencies],
    ]) {
      for (const name of Object.keys(dependencies ?? {})) {
        if (name.startsWith('@oquel/')) continue;
        const at = direct.get(name) ?? { name, ...found(packages, workspace, name), uses: [] };
        direct.set(name, at);
        at.uses.push(`${workspace === '' ? 'the repository' : workspace} (${kind})`);
      }
    }
  }
  const shipped = new Map();
  for (const [path, entry] of Object.entries(packages)) {
    const name = path.slice(path.lastIndexOf('node_modules/') + 'node_modules/'.length);
    if (
      !path.includes('node_modules/') ||
      entry.dev ||
      entry.link ||
      entry.optional ||
      name.startsWith('@oquel/')
    )
      continue;
    const licence = entry.license ?? 'not said';
    shipped.set(licence, [...(shipped.get(licence) ?? []), `${name} ${entry.version}`]);
  }
  return { direct: [...direct.values()].sort((a, b) => (a.name < b.name ? -1 : 1)), shipped };
}
function found(packages, workspace, name) {
  const entry = packages[`${workspace}/node_modules/${name}`] ?? packages[`node_modules/${name}`] ?? {};
  return { version: entry.version ?? '', licence: entry.license ?? 'not said' };
}

/** The page on them, as Markdown. */
export function thirdPartyPage() {
  const { direct, shipped } = thirdParty();
  const licences = [...shipped].sort(([a], [b]) => (a < b ? -1 : 1));
  return [
    '# Third-party packages',
    '',
    'Made by `npm run docs` from the lock file. Oquel also uses Debian’s PostgreSQL, and in its tests Debian’s Chromium and nginx.',
    '',
    'Known faults of packages: `npm audit`, where there is a network; its data cannot be had offline. It belongs to every release, and so does `npm outdated`.',
    '',
    '## Asked for',
    '',
    '| package | version | licence | used by |',
    '| --- | --- | --- | --- |',
    ...direct.map((p) => `| ${p.name} | ${p.version} | ${p.licence} | ${p.uses.join(', ')} |`),
    '',
    '## All that ship with Oquel, by licence',
    '',
    ...licences.flatMap(([licence, names]) => [
      `### ${licence}`,
      '',
      `${[...new Set(names)].sort().join(', ')}.`,
      '',
    ]),
  ].join('\n');
}
