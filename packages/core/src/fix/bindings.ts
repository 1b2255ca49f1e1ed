import { bindingEnds } from '../edit/binding-ends.js';
import type { ChangeSet } from '../edit/change.js';
import type { ArgScope } from '../project/arg-types.js';
import type { AssetIndex, ProjectIndex } from '../project/index-project.js';
import type { Arg, Binding, Field } from '../project/types.js';
import { guessArg, parseArg, suggestArgs } from '../wireline/argument.js';
import { nearest } from '../project/nearest.js';
import {
  bindingOf,
  changeBinding,
  changePlacement,
  find,
  placementOf,
  removeBinding,
  type ProposeFixes,
} from './proposal.js';

/** The later of two is removed, or the earlier. */
export const fixOneOfTwo: ProposeFixes = (index, { subject }) => {
  if (!('bindings' in subject) || 'effects' in subject) return [];
  return [...subject.bindings].reverse().flatMap(({ asset, binding }) => {
    const found = find(index, asset, binding);
    return found ? [removeBinding(found.owner, found.binding)] : [];
  });
};

/** It lets go of its own binding alone, when its owner ends. */
export const fixRelease: ProposeFixes = (index, finding) => {
  const found = bindingOf(index, finding);
  if (!found) return [];
  const { release: _release, ...own } = found.binding;
  return [changeBinding(found.owner, own, 'Release its own binding when its owner ends')];
};

/** It takes hold at load. */
export const fixStartRace: ProposeFixes = (index, finding) => {
  const found = bindingOf(index, finding);
  if (!found) return [];
  const { bind: _bind, ...early } = found.binding;
  return [changeBinding(found.owner, early, 'Bind it when the scene loads')];
};

/** A match by key, or by the listener's key on a channel; or every one is meant. */
export const fixSpill: ProposeFixes = (index, finding) => {
  const found = bindingOf(index, finding);
  if (!found) return [];
  const { owner, binding } = found;
  const { from, to } = binding;
  if ('channel' in from && 'at' in to) {
    return keysOf(bindingEnds(index, owner, binding).receiver).map((property) =>
      changeBinding(
        owner,
        { ...binding, from: { ...from, key: { property } } },
        `Listen with its own ${property}`,
      ),
    );
  }
  if (!('every' in to)) return [];
  const { reader, receiver: selected } = bindingEnds(index, owner, binding);
  const matched = keysOf(selected).filter((key) => reader?.propertyAt.has(key));
  return [
    ...matched.map((property) =>
      changeBinding(
        owner,
        { ...binding, to: { ...to, match: { property, equals: { property } } } },
        `Only those with the same ${property}`,
      ),
    ),
    changeBinding(
      owner,
      { ...binding, to: { ...to, match: 'all' } },
      `Keep it: every ${to.every} is intended`,
    ),
  ];
};
function keysOf(asset: AssetIndex | null | undefined): string[] {
  return (asset?.properties ?? []).filter((p) => p.isKey === true).map((p) => p.name);
}

/** A wider selection, or none. */
export const fixEmptySelection: ProposeFixes = (index, finding) => {
  const found = bindingOf(index, finding);
  if (!found || !('every' in found.binding.to)) return [];
  const { owner, binding } = found;
  const { to } = found.binding;
  const { match: _match, ...all } = to;
  const wider: [Binding['to'], string][] = [
    [{ ...to, within: 'project' }, 'Select in the whole project'],
    [{ ...to, spawned: true }, 'Select spawned ones too'],
    ...(to.match === undefined ? [] : [[all, 'Select without a match'] as [Binding['to'], string]]),
  ];
  return [
    ...wider.map(([next, label]) => changeBinding(owner, { ...binding, to: next }, label)),
    removeBinding(owner, binding),
  ];
};

/** The argument that fits best, or without the one that is too much. */
export const fixPayload: ProposeFixes = (index, finding) => {
  const found = bindingOf(index, finding);
  if (!found || !('param' in finding.subject)) return [];
  const { owner, binding } = found;
  const { param } = finding.subject;
  const { field, scope } = place(index, owner, binding, param);
  const { [param]: _old, ...others } = binding.args ?? {};
  if (!field) return [changeBinding(owner, withArgs(binding, others), `Remove the argument ${param}`)];
  const texts = [...new Set([guessArg(field, scope), ...suggestArgs(field.type, scope)])].filter(
    (t) => t !== '',
  );
  const fixes = texts.slice(0, 4).flatMap((text): ChangeSet[] => {
    const parsed = parseArg(text, field.type, scope);
    if (!('arg' in parsed)) return [];
    return [
      changeBinding(owner, withArgs(binding, { ...others, [param]: parsed.arg }), `${param} = ${text}`),
    ];
  });
  return field.optional
    ? [...fixes, changeBinding(owner, withArgs(binding, others), `Remove the argument ${param}`)]
    : fixes;
};
function withArgs(binding: Binding, args: Record<string, Arg>): Binding {
  const { args: _args, ...rest } = binding;
  return Object.keys(args).length > 0 ? { ...rest, args } : rest;
}
function place(
  index: ProjectIndex,
  owner: AssetIndex,
  binding: Binding,
  param: string,
): { field: Field | undefined; scope: ArgScope } {
  const { payload, params, reader } = bindingEnds(index, owner, binding);
  return {
    field: params?.find((f) => f.name === param),
    scope: { index, payload: payload ?? [], reader },
  };
}

/** The parameter or field that an argument of a binding fills. */
export function fieldFilled(
  index: ProjectIndex,
  owner: AssetIndex,
  binding: Binding,
  param: string,
): Field | undefined {
  return place(index, owner, binding, param).field;
}

/** The nearest key of the table. */
export const fixKey: ProposeFixes = (index, finding) => {
  const known = finding.evidence.kind === 'names' ? finding.evidence : null;
  if (!known) return [];
  const names = nearest(known.wanted, known.known);
  const found = bindingOf(index, finding);
  if (found && 'param' in finding.subject) {
    const { param } = finding.subject;
    return names.map((key) =>
      changeBinding(
        found.owner,
        withArgs(found.binding, { ...found.binding.args, [param]: key }),
        `${param} = ${key}`,
      ),
    );
  }
  const placed = placementOf(index, finding);
  if (!placed || !('property' in finding.subject)) return [];
  const { property } = finding.subject;
  return names.map((key) => {
    const properties = { ...placed.placement.properties, [property]: key };
    return changePlacement(placed.owner, { ...placed.placement, properties }, `${property} = ${key}`);
  });
};

/** Entering is served once only. */
export const fixUnpaired: ProposeFixes = (index, finding) => {
  const { evidence } = finding;
  if (evidence.kind !== 'path') return [];
  const refs = evidence.steps.flatMap((s) => (s.via?.binding ? [s.via.binding] : []));
  const found = refs.length > 0 ? find(index, refs[0].asset, refs[0].binding) : null;
  return found ? [changeBinding(found.owner, { ...found.binding, limit: 1 }, 'Limit entering to once')] : [];
};

/** It is not wired at all. */
export const fixByRemoval: ProposeFixes = (index, finding) => {
  const found = bindingOf(index, finding);
  return found ? [removeBinding(found.owner, found.binding)] : [];
};
