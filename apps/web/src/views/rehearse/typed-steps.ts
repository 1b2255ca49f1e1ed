import { assetAtAddress, parseStep, type ProjectIndex, type StepAction, type Value } from '@oquel/core';

/** A number, yes or no as such, everything else as text; quotes make a text of anything. Null for no key. */
export function readKey(text: string): { value: Value | null } {
  const bare = text.trim();
  if (bare === '') return { value: null };
  if (/^(true|false|-?(0|[1-9]\d*)(\.\d+)?)$/.test(bare)) return { value: JSON.parse(bare) as Value };
  return { value: bare.replace(/^"(.*)"$/, '$1') };
}

/**
 * Reads `pylon-ridge:mast-2.onGust`. What is not there can be raised all the same, since a copy may be spawned by then; the
 * doubt says what is missing.
 */
export function readRaise(
  index: ProjectIndex,
  text: string,
): { raise: { at: string; event: string } | null; doubt: string } {
  const match = /^([^\s:]+:[^\s]+)\.([A-Za-z_][\w-]*)$/.exec(text.trim());
  if (!match)
    return { raise: null, doubt: text.trim() === '' ? '' : 'a scene, a colon, a thing, a dot and an event' };
  const [, at, event] = match;
  const asset = assetAtAddress(index, at);
  const has = asset?.eventAt.has(event) === true;
  const doubt = has ? '' : asset ? `${asset.decl.id} has no event ${event}` : `nothing is called ${at}`;
  return { raise: { at, event }, doubt };
}

const WRITTEN = /^\s*(raise|publish|expect|pause|resume)\b/;
/**
 * Reads a step as it is written in a script (`expect quay:gate-1 did open 1 time`), or an event alone, which is raised. The doubt says
 * what is missing, or where it cannot be read on.
 */
export function readTypedStep(
  index: ProjectIndex,
  text: string,
): { action: StepAction | null; doubt: string } {
  if (!WRITTEN.test(text)) {
    const { raise, doubt } = readRaise(index, text);
    return { action: raise && { raise }, doubt };
  }
  const parsed = parseStep(text.trim());
  if ('value' in parsed) return { action: parsed.value, doubt: '' };
  return { action: null, doubt: `at character ${parsed.fault.at + 1}: ${parsed.fault.message}` };
}
