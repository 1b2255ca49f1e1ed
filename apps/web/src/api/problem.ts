export interface ProblemBody {
  type: string;
  title: string;
  status: number;
  detail: string;
  problems?: { pointer: string; expected: string; found: string }[];
  [more: string]: unknown;
}

/** The server itself has refused, in its own words (RFC 9457, with a type of ours). */
export class ApiProblem extends Error {
  override readonly name = 'ApiProblem';
  constructor(readonly body: ProblemBody) {
    super(body.detail);
  }
  is(type: string): boolean {
    return this.body.type === `${OURS}${type}`;
  }
}
/** Nothing was said by the server itself: it was not reached, did not answer in time, or something between has answered. */
/** The request was cancelled here; what the server had begun may be done all the same. */
export class RequestCancelled extends Error {
  override readonly name = 'RequestCancelled';
}
export class Unreachable extends Error {
  override readonly name = 'Unreachable';
}
const OURS = 'urn:oquel:problem:';

/** What an answer that is no success means. */
export function failureOf(status: number, body: unknown): ApiProblem | Unreachable {
  if (typeof body === 'object' && body !== null && 'type' in body) {
    const problem = body as ProblemBody;
    if (typeof problem.type === 'string' && problem.type.startsWith(OURS)) return new ApiProblem(problem);
  }
  return new Unreachable(`the server cannot be reached: something has answered ${status} in its place`);
}
