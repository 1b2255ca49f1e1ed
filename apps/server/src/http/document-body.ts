import type { Request, RequestHandler } from 'express';
import { setImmediate } from 'node:timers/promises';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import { badRequest, ProblemError, tooLarge } from './problem.js';

/** So much is copied before others have a turn. */
const AT_ONCE = 4 * 1024 * 1024;
const UNPACK = { gzip: createGunzip, deflate: createInflate, br: createBrotliDecompress } as const;

/**
 * Reads a body of any size into memory, as it is unpacked. Unlike the reader of small bodies, it never puts all of the
 * parts together in one go, which holds up every other request at 200 MB.
 */
export function documentBody(limit: number): RequestHandler {
  return (request, _response, next) => {
    read(request, limit).then((body) => {
      request.body = body;
      next();
    }, next);
  };
}

/**
 * Cost: the bytes of the body, and as many again of memory while the parts are put together.
 * @throws ProblemError 400 where it is cut off or not packed as it says, 413 beyond the limit, 415 for unknown packing
 */
async function read(request: Request, limit: number): Promise<Buffer> {
  const announced = Number(request.headers['content-length'] ?? 0);
  const packing = (request.headers['content-encoding'] ?? 'identity').toLowerCase();
  if (packing === 'identity' && announced > limit) throw tooLarge(limit);
  const gathered: { parts: Buffer[]; length: number } = { parts: [], length: 0 };
  try {
    for await (const part of unpacked(request, packing)) {
      gathered.length += part.length;
      if (gathered.length > limit) throw tooLarge(limit);
      gathered.parts.push(part);
    }
  } catch (error) {
    // What is still to come is read past, so that the answer arrives.
    request.unpipe();
    request.resume();
    if (error instanceof ProblemError) throw error;
    throw badRequest(`the body could not be read: ${error instanceof Error ? error.message : String(error)}`);
  }
  return joined(gathered);
}

function unpacked(request: Request, packing: string): AsyncIterable<Buffer> {
  if (packing === 'identity') return request.iterator({ destroyOnReturn: false });
  if (!Object.hasOwn(UNPACK, packing)) {
    const detail = `the body is packed as "${packing}"; send it as it is, or packed as ${Object.keys(UNPACK).join(', ')}`;
    throw new ProblemError(415, 'bad-request', 'The body is packed in an unknown way', detail);
  }
  const unpacking = UNPACK[packing as keyof typeof UNPACK]();
  request.once('error', (error) => unpacking.destroy(error));
  return request.pipe(unpacking);
}

async function joined({ parts, length }: { parts: Buffer[]; length: number }): Promise<Buffer> {
  const whole = Buffer.allocUnsafeSlow(length);
  let [at, since] = [0, 0];
  for (let i = 0; i < parts.length; i++) {
    at += parts[i].copy(whole, at);
    since += parts[i].length;
    // Each is let go once it is copied.
    parts[i] = EMPTY;
    if (since < AT_ONCE) continue;
    since = 0;
    await setImmediate();
  }
  return whole;
}
const EMPTY = Buffer.alloc(0);
