import express, { type RequestHandler } from 'express';

export const MAX_DOCUMENT = 256 * 1024 * 1024;
export const MAX_JSON = 16 * 1024 * 1024;

/** Where a whole document is sent: as a project, over a project, as a build. */
const DOCUMENT = /^\/api\/projects(\/[^/]+\/(replace|builds\/import))?\/?$/;

/** A document comes as text, since the core says exactly where it is broken; everything else is parsed at once. */
export function bodyParsers(): RequestHandler[] {
  const document = express.text({ type: () => true, limit: MAX_DOCUMENT });
  const json = express.json({ limit: MAX_JSON, strict: true });
  return [
    (request, response, next) => {
      const isDocument = request.method === 'POST' && DOCUMENT.test(request.path);
      (isDocument ? document : json)(request, response, next);
    },
  ];
}
