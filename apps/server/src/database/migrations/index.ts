import type { Migration } from 'kysely';
import { m001Projects } from './001-projects.js';

/** Every migration by name; they run in the order of their names. */
export const MIGRATIONS: Record<string, Migration> = { '001-projects': m001Projects };
