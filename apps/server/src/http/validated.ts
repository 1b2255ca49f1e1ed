import type { ValidationError } from 'class-validator';
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { badRequest, type ProblemError } from './problem.js';

/** What every DTO is checked with. */
export const VALIDATION = { whitelist: true, forbidNonWhitelisted: true } as const;

/** A value as an instance of a DTO. @throws ProblemError 400 that names the fields */
export function validated<T extends object>(dto: new () => T, value: unknown): T {
  const instance = plainToInstance(dto, value ?? {});
  const errors = validateSync(instance, VALIDATION);
  if (errors.length > 0) throw invalid(errors);
  return instance;
}
export function invalid(errors: readonly ValidationError[]): ProblemError {
  const reasons = errors.flatMap((e) => Object.values(e.constraints ?? {}));
  return badRequest(reasons.join('; '), { fields: errors.map((e) => e.property) });
}
