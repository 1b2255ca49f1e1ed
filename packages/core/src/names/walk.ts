import type { ProjectIndex } from '../project/index-project.js';
import type { Project } from '../project/types.js';
import { channelKeyTypes } from './bindings.js';
import { NameContext } from './context.js';
import { assetNames, type BindingWatch } from './declarations.js';
import type { NameVisitor } from './name.js';
import { each, patched } from './patch.js';
import { rehearsalNames } from './rehearsals.js';

/**
 * Shows every name of a document to a visitor, with what it stands for, and gives back the document with what the visitor
 * answers in its place. A name that leads to nothing is not shown. What no answer changes is the very same object. The
 * order is that of the document's types: assets first, in array order. Linear in the document, but for the segments of
 * paths.
 *
 * Waivers name findings by a hash, so they are not shown; `renamedWaivers` carries them.
 */
export function walkNames(
  index: ProjectIndex,
  visit: NameVisitor,
  watch: BindingWatch | null = null,
): Project {
  const silent = new NameContext(index, (_kind, _asset, _of, name) => name);
  const keyTypes = channelKeyTypes(silent);
  const names = new NameContext(index, visit);
  const { project } = index;
  const named = (kind: 'loadSet' | 'peer' | 'channel' | 'enum' | 'table', name: string): string =>
    visit(kind, '', '', name);
  let at = 0;
  return patched(project, {
    assets: each(project.assets, () => {
      const owner = index.assets[at++];
      return assetNames(names, owner, keyTypes, watch);
    }),
    ...(project.channels && {
      channels: each(project.channels, (c) =>
        patched(c, {
          name: named('channel', c.name),
          ...(c.payload && {
            payload: names.fields({ kind: 'channelField', asset: '', of: c.name }, c.payload),
          }),
        }),
      ),
    }),
    ...(project.enums && {
      enums: each(project.enums, (e) =>
        patched(e, {
          name: named('enum', e.name),
          values: each(e.values, (v) => visit('enumValue', '', e.name, v)),
        }),
      ),
    }),
    ...(project.tables && {
      tables: each(project.tables, (t) =>
        patched(t, {
          name: named('table', t.name),
          keys: each(t.keys, (k) => visit('tableKey', '', t.name, k)),
        }),
      ),
    }),
    ...(project.loadSets && {
      loadSets: each(project.loadSets, (s) =>
        patched(s, {
          name: named('loadSet', s.name),
          scenes: each(s.scenes, (id) => names.asset(id)),
        }),
      ),
    }),
    ...(project.peers && {
      peers: each(project.peers, (p) => patched(p, { name: named('peer', p.name) })),
    }),
    ...(project.rehearsals && {
      rehearsals: each(project.rehearsals, (r) => rehearsalNames(names, r, keyTypes)),
    }),
  });
}
