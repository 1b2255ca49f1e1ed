import { resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ownRules, RuleRefused, type Rule } from '@oquel/core';
import { requireFile, requirePath, UsageError } from './paths.js';

/** The rules of a team's module. The module is run: whoever names it trusts it. @throws UsageError */
export async function rulesFrom(file: string): Promise<Rule[]> {
  requirePath(file, 'the file with rules');
  requireFile(file);
  let module: { default?: unknown };
  try {
    module = (await import(pathToFileURL(resolve(file)).href)) as { default?: unknown };
  } catch (error) {
    throw new UsageError(
      `${file} cannot be loaded: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
  try {
    return ownRules(module.default);
  } catch (error) {
    if (error instanceof RuleRefused) throw new UsageError(`${file}: ${error.message}`);
    throw new UsageError(
      `${file}: its function failed: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
}
