import type { Action, Asset, Effect } from '../../src/index.js';
import { isSound, possible } from '../naive-conditions.js';
import { effectText } from '../naive-rehearsal/raising.js';
import { copies, literal, literalsIn } from './literals.js';
import type { NaiveReading, SecondReading } from './reading.js';

function effects(r: NaiveReading, asset: Asset): void {
  for (const action of asset.actions ?? []) {
    for (const effect of action.effects ?? []) {
      const names: [string | undefined, string[]][] = [
        [
          effect.when && 'property' in effect.when ? effect.when.property : undefined,
          (asset.properties ?? []).map((p) => p.name),
        ],
        [
          effect.when && 'param' in effect.when ? effect.when.param : undefined,
          (action.params ?? []).map((p) => p.name),
        ],
        [
          'set' in effect
            ? effect.set
            : 'toggle' in effect
              ? effect.toggle
              : 'add' in effect
                ? effect.add
                : undefined,
          (asset.properties ?? []).map((p) => p.name),
        ],
        ['raise' in effect ? effect.raise : undefined, (asset.events ?? []).map((e) => e.name)],
        [
          'spawn' in effect ? effect.spawn : undefined,
          r.n.project.assets.filter((a) => a.kind !== 'scene').map((a) => a.id),
        ],
      ];
      if (names.some(([name, known]) => name !== undefined && !known.includes(name))) {
        r.report('dangling-effect', '', { asset: asset.id, action: action.name }, copies(r, asset));
      }
      if ('raise' in effect) raised(r, asset, action.name, effect.raise);
      guard(r, asset, action, effect);
      if ('set' in effect && (typeof effect.to !== 'object' || Array.isArray(effect.to))) {
        const type = asset.properties?.find((p) => p.name === effect.set)?.type;
        const subject = { asset: asset.id, action: action.name, effect: `set:${effect.set}` };
        if (type) literal(r, effect.to, type, copies(r, asset), subject);
      }
    }
  }
  for (const p of asset.properties ?? []) {
    const at = r.n.instances.filter((i) => i.asset.id === asset.id && !Object.hasOwn(i.overrides, p.name));
    literal(
      r,
      p.default,
      p.type,
      at.map((i) => i.address),
      { asset: asset.id, property: p.name },
    );
  }
}

/** What a `when` asks must be of the type of what it asks; more or less is asked of numbers alone. */
function guard(r: NaiveReading, asset: Asset, action: Action, effect: Effect): void {
  const { when } = effect;
  if (!when) return;
  const type =
    'property' in when
      ? asset.properties?.find((p) => p.name === when.property)?.type
      : action.params?.find((p) => p.name === when.param)?.type;
  if (type === undefined) return;
  const literals = literalsIn(when.is, type);
  const param = 'param' in when ? action.params?.find((p) => p.name === when.param) : undefined;
  const asking = { of: '', type, optional: param?.optional === true, is: when.is };
  if (isSound(when.is, type) && !possible([asking])) {
    const subject = { asset: asset.id, action: action.name, effect: effectText(effect) };
    r.report('never-true', '', subject, copies(r, asset));
  }
  const subject = { asset: asset.id, action: action.name, effect: effectText(effect) };
  for (const v of literals) literal(r, v, type, copies(r, asset), subject);
}

/** An effect that raises gives no payload in these projects, so every field that must be there is missing. */
function raised(r: NaiveReading, asset: Asset, action: string, raise: string): void {
  const event = asset.events?.find((e) => e.name === raise);
  for (const f of event?.payload ?? []) {
    if (f.optional) continue;
    r.report('payload-mismatch', '', { asset: asset.id, action, param: f.name }, copies(r, asset));
  }
}

export const ofWrittenEffects: SecondReading = {
  rules: ['dangling-effect', 'never-true'],
  read(r) {
    for (const asset of r.n.project.assets) effects(r, asset);
  },
};
