import { BrokenDocument, type Problem } from './problem.js';
import { parseJson, type ParsedJson } from './json-text.js';
import { readProject, type ReadResult } from './read.js';
import type { Asset, Project } from './types.js';
import { append } from '../util/append.js';

/**
 * The folder form: `project.json` holds everything but the assets, and in their place a list of files, in order; each
 * file holds one asset. It is meant for version control: a change of one asset changes one file, and writing what was
 * read gives the same bytes.
 */
export const PROJECT_FILE = 'project.json';

const FOLDERS = { scene: 'scenes', prefab: 'prefabs', widget: 'widgets' } as const;
const ASSET_FILE = /^(scenes|prefabs|widgets)\/[A-Za-z0-9_-]+(~\d+)?\.json$/;

/** The files of a project by their relative paths, with `/` between folders. */
export function toFolder(project: Project): Map<string, string> {
  const files = new Map<string, string>();
  const taken = new Set<string>();
  const names = project.assets.map((asset) => freeName(asset, taken));
  files.set(PROJECT_FILE, format({ ...project, assets: names }));
  project.assets.forEach((asset, i) => files.set(names[i], format(asset)));
  return files;
}

/** Names that differ only in case are one file on some disks, so the later one gets a number. */
function freeName({ kind, id }: Asset, taken: Set<string>): string {
  for (let n = 1; ; n++) {
    const name = `${FOLDERS[kind]}/${id}${n === 1 ? '' : `~${n}`}.json`;
    if (taken.has(name.toLowerCase())) continue;
    taken.add(name.toLowerCase());
    return name;
  }
}
function format(value: unknown): string {
  return `${JSON.stringify(value, null, 2)}\n`;
}

/**
 * Reads a folder form; `file` gives the text of a file, or null if there is none.
 * @throws BrokenDocument whose pointers begin with the file, such as `prefabs/Cabin.json/bindings/0/limit`
 */
export function fromFolder(file: (path: string) => string | null): ReadResult {
  const repeated: string[] = [];
  const parsed = (path: string): unknown => {
    const { value, repeated: found } = parseFile(path, file(path));
    append(repeated, found);
    return value;
  };
  const head = parsed(PROJECT_FILE) as Record<string, unknown>;
  const paths = head?.assets;
  if (!Array.isArray(paths)) throw broken(`${PROJECT_FILE}/assets`, 'a list of files', 'none');
  const assets = paths.map((path: unknown, i) => {
    if (typeof path !== 'string' || !ASSET_FILE.test(path)) {
      throw broken(
        `${PROJECT_FILE}/assets/${i}`,
        'a file such as "prefabs/Cabin.json"',
        JSON.stringify(path),
      );
    }
    return parsed(path);
  });
  try {
    return { ...readProject({ ...head, assets }), repeated };
  } catch (error) {
    if (!(error instanceof BrokenDocument)) throw error;
    throw new BrokenDocument(
      error.problems.map((p) => ({ ...p, pointer: inFile(p.pointer, paths as string[]) })),
    );
  }
}

/** What is found in a file is reported with the file in front. */
function parseFile(path: string, text: string | null): ParsedJson {
  if (text === null) throw broken(path, 'the file', 'none');
  try {
    const { value, repeated } = parseJson(text);
    return { value, repeated: repeated.map((pointer) => `${path}${pointer}`) };
  } catch (error) {
    if (!(error instanceof BrokenDocument)) throw error;
    throw new BrokenDocument(error.problems.map((p) => ({ ...p, pointer: path })));
  }
}
function broken(pointer: string, expected: string, found: string): BrokenDocument {
  const problem: Problem = { pointer, expected, found };
  return new BrokenDocument([problem]);
}
/** `/assets/4/bindings/0` of the whole is `prefabs/Cabin.json/bindings/0`. */
function inFile(pointer: string, paths: readonly string[]): string {
  const match = /^\/assets\/(\d+)(\/.*)?$/.exec(pointer);
  return match ? `${paths[Number(match[1])]}${match[2] ?? ''}` : `${PROJECT_FILE}${pointer}`;
}
