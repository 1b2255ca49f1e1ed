import {
  holdersOf,
  nameFromText,
  parseArg,
  printValue,
  type Area,
  type AssetIndex,
  type ChangeSet,
  type Placement,
  type ProjectIndex,
  type Property,
  type Value,
} from '@oquel/core';
import type { ReactNode } from 'react';
import { Entry, type Read } from '../../parts/ui/entry.js';
import { Differing, PeerFields } from './differing.js';
import { InsideValues } from './inside-values.js';
import { overriding, setting, some } from './stage-edits.js';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  chosen: readonly Placement[];
  /** What can be done with it. */
  actions: ReactNode;
  onEdit: (changeSet: ChangeSet) => void;
  onRename: (id: string, to: string) => void;
  /** The name is typed, or left as it was. */
  onNamed: () => void;
}

/** What is chosen, to be changed at once: one thing by its name, place, area and properties, many by what they share. */
export function ChosenBar({ index, owner, chosen, actions, onEdit, onRename, onNamed }: Props): ReactNode {
  const ids = chosen.map((p) => p.id);
  const one = chosen.length === 1 ? chosen[0] : null;
  const assets = new Set(chosen.map((p) => p.asset));
  const asset = assets.size === 1 ? index.assets[index.assetAt.get(chosen[0].asset) ?? -1] : undefined;
  const tick = (part: 'asleep' | 'entry', label: string): ReactNode => {
    const on = chosen.filter((p) => p[part] === true).length;
    const pressed = on === chosen.length ? true : on === 0 ? false : ('mixed' as const);
    return (
      <button
        type="button"
        className="tick"
        aria-pressed={pressed}
        onClick={() => onEdit(setting(owner, ids, part, pressed === true ? undefined : true))}
      >
        {label}
        {pressed === 'mixed' ? ` (${on} of ${chosen.length})` : ''}
      </button>
    );
  };
  return (
    <div className="chosenbar" role="group" aria-label={`Chosen: ${some(ids)}`}>
      <div className="row thingactions">{actions}</div>
      <div className="row">
        {one ? (
          <Entry
            key={one.id}
            label="Name"
            name="placement"
            value={one.id}
            width={150}
            read={(text) => readName(owner, one.id, text)}
            onTake={(to) => to !== one.id && onRename(one.id, to)}
            onEnd={onNamed}
          />
        ) : (
          <b>{some(ids)}</b>
        )}
        <span className="soft mono">{[...assets].slice(0, 3).join(', ')}</span>
        {one &&
          ([0, 1] as const).map((i) => (
            <Entry
              key={`${one.id}/${i}`}
              label={i === 0 ? 'x' : 'y'}
              unit="m"
              value={String((one.at ?? [0, 0])[i])}
              width={64}
              read={readNumber}
              onTake={(n) => {
                const at: [number, number] = [...(one.at ?? [0, 0])];
                at[i] = n;
                onEdit(setting(owner, ids, 'at', at));
              }}
            />
          ))}
        {tick('asleep', 'Asleep at first')}
        {owner.decl.kind === 'scene' && tick('entry', 'Entry')}
        <AreaFields owner={owner} chosen={chosen} base={asset?.decl.area} onEdit={onEdit} />
      </div>
      {asset && (
        <div className="row">
          <Differing index={index} owner={owner} chosen={chosen} asset={asset} onEdit={onEdit} />
          {asset.properties.map((p) => (
            <PropertyEntry
              key={`${ids.join()}/${p.name}`}
              index={index}
              owner={owner}
              chosen={chosen}
              property={p}
              onTake={(value) => onEdit(overriding(owner, ids, p.name, value))}
            />
          ))}
          <PeerFields index={index} owner={owner} chosen={chosen} onEdit={onEdit} />
        </div>
      )}
      {one && <InsideValues index={index} owner={owner} placement={one} onEdit={onEdit} />}
    </div>
  );
}

/** A property of all that are chosen; a key that others hold too is marked while it is typed. */
function PropertyEntry({
  index,
  owner,
  chosen,
  property,
  onTake,
}: {
  index: ProjectIndex;
  owner: AssetIndex;
  chosen: readonly Placement[];
  property: Property;
  onTake: (value: Value | undefined) => void;
}): ReactNode {
  const { name, type } = property;
  const values = new Set(chosen.map((p) => written(p.properties?.[name])));
  const value = values.size === 1 ? [...values][0] : '';
  const read = (text: string): Read<Value | undefined> => {
    if (text.trim() === '') return { value: undefined };
    const parsed = parseArg(text, type, { index, payload: [], reader: null });
    if ('error' in parsed) return parsed;
    if (typeof parsed.arg === 'object' && !Array.isArray(parsed.arg)) return { error: 'expected a value' };
    return { value: parsed.arg };
  };
  const warn = (text: string): string => {
    if (property.isKey !== true && property.unique !== true) return '';
    const now = read(text);
    if ('error' in now) return '';
    if (now.value === undefined) return 'keeps the default';
    const ids = new Set(chosen.map((p) => p.id));
    const others = holdersOf(index, owner, chosen[0].asset, name, now.value).filter((id) => !ids.has(id));
    if (chosen.length > 1 && property.unique === true) return 'the same for all';
    return property.unique === true && others.length > 0 ? `${others[0]} has it too` : '';
  };
  return (
    <Entry
      label={name}
      value={value}
      placeholder={values.size > 1 ? 'several' : written(property.default)}
      width={110}
      read={read}
      warn={warn}
      onTake={onTake}
    />
  );
}
function written(value: Value | undefined): string {
  if (value === undefined) return '';
  return typeof value === 'string' ? value : printValue(value);
}

const AREAS = { '': 'as its prefab', circle: 'circle', rect: 'rectangle', polygon: 'polygon' } as const;
type AreaKind = keyof typeof AREAS;

function AreaFields({
  owner,
  chosen,
  base,
  onEdit,
}: {
  owner: AssetIndex;
  chosen: readonly Placement[];
  base: Area | undefined;
  onEdit: (changeSet: ChangeSet) => void;
}): ReactNode {
  const ids = chosen.map((p) => p.id);
  const [{ area }] = chosen;
  const same = chosen.every((p) => JSON.stringify(p.area) === JSON.stringify(area));
  const kind: AreaKind =
    !same || !area ? '' : 'circle' in area ? 'circle' : 'rect' in area ? 'rect' : 'polygon';
  const set = (next: Area | undefined): void => onEdit(setting(owner, ids, 'area', next));
  return (
    <>
      <label>
        Area{' '}
        <select
          className="line"
          value={kind}
          onChange={(e) => set(freshArea(e.target.value as AreaKind, area ?? base))}
        >
          {Object.entries(AREAS).map(([k, text]) => (
            <option key={k} value={k}>
              {k === '' && !base ? 'none' : text}
            </option>
          ))}
        </select>
      </label>
      {same && area && 'circle' in area && (
        <Entry
          label="radius"
          unit="m"
          width={60}
          value={String(area.circle)}
          read={readSize}
          onTake={(circle) => set({ circle })}
        />
      )}
      {same &&
        area &&
        'rect' in area &&
        ([0, 1] as const).map((i) => (
          <Entry
            key={i}
            label={i === 0 ? 'wide' : 'deep'}
            unit="m"
            width={60}
            value={String(area.rect[i])}
            read={readSize}
            onTake={(n) => set({ rect: i === 0 ? [n, area.rect[1]] : [area.rect[0], n] })}
          />
        ))}
    </>
  );
}

/** A new area about as large as the one before. */
function freshArea(kind: AreaKind, before: Area | undefined): Area | undefined {
  const reach = !before
    ? 3
    : 'circle' in before
      ? before.circle
      : 'rect' in before
        ? Math.max(before.rect[0], before.rect[1]) / 2
        : before.polygon.flat().reduce((far, n) => Math.max(far, Math.abs(n)), 0.5);
  if (kind === 'circle') return { circle: reach };
  if (kind === 'rect') return { rect: [2 * reach, 2 * reach] };
  if (kind !== 'polygon') return undefined;
  return {
    polygon: [
      [-reach, -reach],
      [reach, -reach],
      [reach, reach],
      [-reach, reach],
    ],
  };
}

function readNumber(text: string): Read<number> {
  const n = Number(text.trim().replace(',', '.'));
  return text.trim() === '' || !Number.isFinite(n) ? { error: 'expected metres' } : { value: n };
}
function readSize(text: string): Read<number> {
  const read = readNumber(text);
  return 'value' in read && read.value <= 0 ? { error: 'expected more than 0' } : read;
}
function readName(owner: AssetIndex, id: string, text: string): Read<string> {
  const to = nameFromText(text, 'placement');
  if (to === '') return { error: 'a name needs a letter from A to Z' };
  return to !== id && owner.placementAt.has(to) ? { error: `${to} already exists` } : { value: to };
}
