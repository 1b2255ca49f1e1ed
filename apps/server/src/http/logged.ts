import type { IncomingMessage, ServerResponse } from 'node:http';

/**
 * What the log tells of a request and its answer. Only what is named here: a header that nobody has thought of may carry a
 * secret.
 */
export const LOGGED = {
  req: (request: IncomingMessage & { id: string; raw: IncomingMessage }): object => {
    const { host, origin, 'user-agent': agent } = request.headers;
    const from = request.raw.socket.remoteAddress;
    return { id: request.id, method: request.method, url: request.url, host, origin, agent, from };
  },
  res: (response: ServerResponse): object => ({ status: response.statusCode }),
};
