import { FORMAT, type WiringProject, type WiringScene } from '@oquel/runtime';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Expansion } from '../expand/expansion.js';
import { peerRolesOf, type PeerRoles } from '../expand/peers.js';
import { PathTable } from '../expand/resolve.js';
import { sceneInstances } from '../graph/resolver.js';
import { canonicalParts } from '../project/canonical.js';
import type { Binding, Project } from '../project/types.js';
import { finish, type WorkStep } from '../util/steps.js';
import { compiledAsset } from './declared.js';
import { compileScene, type SceneInputs } from './scene.js';

/** All that a game needs of a project: one part that is always there, and one for each scene. */
export interface CompiledWiring {
  project: WiringProject;
  scenes: WiringScene[];
}

/** SHA-256 of a text as UTF-8, in hex. The text comes in parts. */
export type Sha256 = (parts: Iterable<string>) => string;
const ownSha256: Sha256 = (parts) => {
  const hash = sha256.create();
  for (const part of parts) hash.update(utf8ToBytes(part));
  return bytesToHex(hash.digest());
};

export interface CompileOptions {
  /** Scenes that are wanted; all without it. */
  scenes?: readonly string[];
  /** The platform's, where it has a faster one. */
  sha256?: Sha256;
  /** The project's hash, where it is known, or does not matter. */
  hash?: string;
}

/**
 * Compiles an expanded project into `oquel.wiring/1`. What can be resolved is resolved; what depends on the state of play
 * (`every`, keys that are read from properties) is left as it is written. Cost: linear in instances and expanded bindings.
 */
export function compileWiring(x: Expansion, options: CompileOptions = {}): CompiledWiring {
  return finish(compileSteps(x, options));
}

/** The same in steps: one for the project's part, one for each scene. */
export function* compileSteps(
  x: Expansion,
  options: CompileOptions = {},
): Generator<WorkStep, CompiledWiring> {
  const { scenes, sha256: hashOf } = options;
  const { project, assets } = x.index;
  const hash = options.hash ?? projectHash(project, hashOf);
  const roots = sceneInstances(x);
  const inputs: SceneInputs = {
    x,
    hash,
    roots,
    paths: assets.map((asset) => new PathTable(x, roots, asset.at)),
    enabled: assets.map((asset) => enabledOf(asset.bindings)),
    peerRoles: (project.peers?.length ?? 0) > 0 ? peerRolesOf(x) : null,
  };
  const ids = [...roots.values()].map((root) => ({ root, id: x.assetOf(root).decl.id }));
  const wanted = ids.filter(({ id }) => !scenes || scenes.includes(id));
  const of = wanted.length + 1;
  const compiled: CompiledWiring = {
    project: {
      format: FORMAT,
      hash,
      name: project.name,
      assets: assets.map((asset) =>
        compiledAsset(
          asset,
          inputs.enabled[asset.at].map((b) => asset.bindings[b]),
        ),
      ),
      channels: (project.channels ?? []).map(({ name, payload }) => ({
        name,
        ...(payload && payload.length > 0
          ? {
              payload: payload.map(({ name: field, type, optional }) => ({
                name: field,
                type,
                ...(optional ? { optional: true as const } : {}),
              })),
            }
          : {}),
      })),
      enums: (project.enums ?? []).map(({ name, values }) => ({ name, values })),
      loadSets: (project.loadSets ?? []).map(({ name, scenes: of }) => ({ name, scenes: of })),
      peers: (project.peers ?? []).map((p) => p.name),
      strangers: strangersOf(inputs.peerRoles),
      scenes: ids.map(({ id }) => ({ scene: id, file: sceneFile(id) })),
    },
    scenes: [],
  };
  for (const [i, { root, id }] of wanted.entries()) {
    yield { doing: `compiling ${id}`, done: i + 1, of };
    compiled.scenes.push(compileScene(inputs, root));
  }
  return compiled;
}

/** The SHA-256 of a project's canonical JSON. Cost: the document's length. */
export function projectHash(project: Project, hashOf: Sha256 = ownSha256): string {
  return hashOf(canonicalParts(project));
}
/** Where the file of a scene stands. Names are letters, digits, `_` and `-`, so they are file names. */
export function sceneFile(scene: string): string {
  return `scenes/${scene}.json`;
}

function enabledOf(bindings: readonly Binding[]): number[] {
  return [...bindings.keys()].filter((b) => bindings[b].enabled !== false);
}
function strangersOf(peerRoles: PeerRoles | null): string[] {
  return peerRoles ? peerRoles.names.slice(peerRoles.peers.length) : [];
}
