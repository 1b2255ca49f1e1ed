import {
  asPart,
  auditSteps,
  BrokenDocument,
  fromFolder,
  mergeManifest,
  PICTURE_NAME,
  PICTURES_FOLDER,
  picturesOf,
  MergeRefused,
  PROJECT_FILE,
  ProjectTooLarge,
  readManifestText,
  readProjectText,
  toFolder,
  type AuditResult,
  type Problem,
  type Project,
  type ReadResult,
  type WorkStep,
} from '@oquel/core';
import { strToU8, unzipSync, zipSync } from 'fflate';

/** A document that has been read and found sound, and nothing of it stored. */
export interface Incoming {
  text: string;
  project: Project;
  /** Pointers of properties that the format does not know. */
  unknown: string[];
  /** Pointers of properties that stand more than once; the last of each counts. */
  repeated: string[];
  audit: AuditResult;
  /** Pictures under plans that came with it, by name. */
  pictures: [string, Uint8Array][];
}
/** Why a file cannot come in. */
export interface Unfit {
  message: string;
  problems: readonly Problem[];
  /** Storing was cancelled, so it may be stored all the same. */
  mayBeStored?: true;
}

/** What a folder may come to when it is unpacked, in bytes: as much as a document may have. */
const MOST_BYTES = 256 * 1024 * 1024;

/** Reading is one step of these, auditing the rest. */
const STEPS = 4;
const AUDIT = { done: 1, share: 3, of: STEPS };

/** What a manifest of the game would make of a project. */
export function* readManifestInto(
  before: Project,
  bytes: Uint8Array,
  today: string,
): Generator<WorkStep, Incoming | Unfit> {
  try {
    yield { doing: 'reading the manifest', done: 0, of: STEPS };
    const { manifest, unknown } = readManifestText(textOf(bytes));
    const { project } = mergeManifest(before, manifest);
    const audit = yield* asPart(auditSteps(project, { today }), AUDIT);
    return { text: JSON.stringify(project), project, unknown, repeated: [], audit, pictures: [] };
  } catch (error) {
    if (error instanceof BrokenDocument) return { message: error.message, problems: error.problems };
    if (error instanceof MergeRefused) return { message: error.reasons.join('; '), problems: [] };
    if (error instanceof ProjectTooLarge || error instanceof UnfitZip) {
      return { message: error.message, problems: [] };
    }
    throw error;
  }
}

/** Reads a document, or a zip of the folder form. `today`: ISO date by which waivers are judged. */
export function* readIncoming(bytes: Uint8Array, today: string): Generator<WorkStep, Incoming | Unfit> {
  try {
    yield { doing: 'reading the document', done: 0, of: STEPS };
    const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b;
    const pictures = new Map<string, Uint8Array>();
    const read = isZip ? readZip(bytes, pictures) : readProjectText(textOf(bytes));
    const { project, unknown, repeated } = read;
    const own = picturesOf(project).flatMap((name): [string, Uint8Array][] => {
      const picture = pictures.get(name);
      return picture ? [[name, picture]] : [];
    });
    const audit = yield* asPart(auditSteps(project, { today }), AUDIT);
    return { text: JSON.stringify(project), project, unknown, repeated, audit, pictures: own };
  } catch (error) {
    if (error instanceof BrokenDocument) return { message: error.message, problems: error.problems };
    if (error instanceof ProjectTooLarge || error instanceof UnfitZip) {
      return { message: error.message, problems: [] };
    }
    throw error;
  }
}

class UnfitZip extends Error {}

function textOf(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    throw new UnfitZip('the file is not text in UTF-8');
  }
}

/** Reads the folder form; the pictures in it are put to `pictures`. */
function readZip(bytes: Uint8Array, pictures: Map<string, Uint8Array>): ReadResult {
  let files: Record<string, Uint8Array>;
  let total = 0;
  try {
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        const isPicture = PICTURE_NAME.test(name.slice(name.lastIndexOf('/') + 1));
        if (!name.endsWith('.json') && !isPicture) return false;
        total += originalSize;
        if (total > MOST_BYTES) throw new UnfitZip('the folder is larger than 256 MiB when it is unpacked');
        return true;
      },
    });
  } catch (error) {
    if (error instanceof UnfitZip) throw error;
    throw new UnfitZip('the zip file cannot be unpacked; it may have been cut off');
  }
  // Most programs pack the folder itself, so everything lies below its name.
  const heads = Object.keys(files).filter(
    (name) => name === PROJECT_FILE || name.endsWith(`/${PROJECT_FILE}`),
  );
  const [head] = heads.sort((a, b) => a.length - b.length);
  if (head === undefined) throw new UnfitZip(`there is no ${PROJECT_FILE} in the zip file`);
  const base = head.slice(0, -PROJECT_FILE.length);
  for (const [path, picture] of Object.entries(files)) {
    const folder = `${base}${PICTURES_FOLDER}/`;
    if (path.startsWith(folder)) pictures.set(path.slice(folder.length), picture);
  }
  return fromFolder((path) => {
    const file = files[base + path] as Uint8Array | undefined;
    return file ? textOf(file) : null;
  });
}

/** The folder form of a project as a zip file, with its pictures beside the documents. */
export function zipOf(project: Project, pictures: readonly (readonly [string, Uint8Array])[]): Uint8Array {
  const files = [...toFolder(project)].map(([path, text]) => [path, strToU8(text)] as const);
  const beside = pictures.map(([name, bytes]) => [`${PICTURES_FOLDER}/${name}`, bytes] as const);
  return zipSync(Object.fromEntries([...files, ...beside]));
}
