import {
  markOf,
  MARKS,
  nameFromText,
  type Area,
  type AssetIndex,
  type AssetPart,
  type ProjectIndex,
  type Vec2,
} from '@oquel/core';
import { useMemo, type ReactNode } from 'react';
import { Entry, type Read } from '../../../parts/ui/entry.js';
import { NoteEntry, Tick } from './declared-parts.js';

/** What an asset itself is: its name, tags, size or area, when and where it exists, and how often it is used. */
export function AssetDetails({
  index,
  asset,
  onSet,
  onRename,
  onDuplicate,
  onDrop,
}: {
  index: ProjectIndex;
  asset: AssetIndex;
  /** Undefined takes the part away. */
  onSet: (part: AssetPart, value: unknown) => void;
  onRename: (to: string) => void;
  onDuplicate: () => void;
  onDrop: () => void;
}): ReactNode {
  const { decl } = asset;
  const placed = useMemo(() => placesOf(index, decl.id), [index, decl.id]);
  return (
    <div className="assethead" role="group" aria-label={`About ${decl.id}`}>
      <div className="row">
        <Entry
          label={`Name of the ${decl.kind}`}
          shown=""
          width={190}
          value={decl.id}
          read={(text): Read<string> => {
            const id = nameFromText(text, decl.kind);
            if (id === '') return { error: 'a name needs a letter from A to Z' };
            return id !== decl.id && index.assetAt.has(id)
              ? { error: `${id} already exists` }
              : { value: id };
          }}
          onTake={(to) => to !== decl.id && onRename(to)}
        />
        <span className="soft">
          {decl.kind}
          {decl.kind !== 'scene' && `, placed ${placed === 1 ? 'once' : `${placed} times`}`}
        </span>
        <span className="grow" />
        <button type="button" className="word" onClick={onDuplicate}>
          Duplicate
        </button>
        <button type="button" className="word" onClick={onDrop}>
          Remove
        </button>
      </div>
      <div className="row">
        <Entry
          label={`Tags of ${decl.id}`}
          shown="tags"
          width={170}
          placeholder="none"
          value={(decl.tags ?? []).join(', ')}
          read={readTags}
          onTake={(tags) => onSet('tags', tags.length > 0 ? tags : undefined)}
        />
      </div>
      <div className="row">
        {decl.kind === 'scene' ? (
          <Entry
            label={`Size of ${decl.id}`}
            shown="plan"
            unit="m"
            width={90}
            placeholder="none"
            value={decl.size ? decl.size.join(' x ') : ''}
            read={readSize}
            onTake={(size) => onSet('size', size)}
          />
        ) : (
          <Entry
            label={`Sensing area of ${decl.id}`}
            shown="area"
            width={150}
            placeholder="none; circle 5, rect 4 x 2"
            value={areaWritten(decl.area)}
            read={(text): Read<Area | undefined> => readArea(text, decl.area)}
            onTake={(area) => onSet('area', area)}
          />
        )}
        {decl.kind === 'prefab' && (
          <label>
            mark{' '}
            <select
              className="line"
              aria-label={`Mark of ${decl.id} on plans`}
              value={decl.mark ?? ''}
              onChange={(e) => onSet('mark', e.target.value === '' ? undefined : e.target.value)}
            >
              <option value="">{markOf({ ...decl, mark: undefined })} (automatic)</option>
              {MARKS.map((m) => (
                <option key={m} value={m}>
                  {m}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      <div className="row">
        {decl.kind === 'scene' && (
          <Tick
            text="always loaded"
            on={decl.persistent === true}
            onSet={(on) => onSet('persistent', on ? true : undefined)}
          />
        )}
        <Tick
          text="active while paused"
          on={decl.runsInPause === true}
          onSet={(on) => onSet('runsInPause', on ? true : undefined)}
        />
        <Tick
          text="authority only"
          on={decl.existsOn === 'authority'}
          onSet={(on) => onSet('existsOn', on ? 'authority' : undefined)}
        />
      </div>
      <div className="row">
        <NoteEntry
          name={decl.id}
          note={decl.note}
          onTake={(note) => onSet('note', note === '' ? undefined : note)}
        />
      </div>
    </div>
  );
}

function placesOf(index: ProjectIndex, id: string): number {
  return index.assets.reduce((n, a) => n + a.placements.filter((p) => p.asset === id).length, 0);
}
function readTags(text: string): Read<string[]> {
  const tags = text
    .split(/[\s,]+/)
    .map((t) => t.replace(/^#/, ''))
    .filter(Boolean);
  return { value: [...new Set(tags)] };
}
function readPair(text: string): Vec2 | null {
  const [w, h, ...rest] = text.split(/\s*[x×,]\s*/i).map(Number);
  return rest.length === 0 && w > 0 && h > 0 && Number.isFinite(w * h) ? [w, h] : null;
}
function readSize(text: string): Read<Vec2 | undefined> {
  if (text.trim() === '') return { value: undefined };
  const size = readPair(text.trim());
  return size ? { value: size } : { error: 'metres, such as 110 x 66' };
}
function areaWritten(area: Area | undefined): string {
  if (!area) return '';
  if ('circle' in area) return `circle ${area.circle}`;
  return 'rect' in area ? `rect ${area.rect.join(' x ')}` : `polygon of ${area.polygon.length}`;
}
function readArea(text: string, before: Area | undefined): Read<Area | undefined> {
  const trimmed = text.trim();
  if (trimmed === '') return { value: undefined };
  if (trimmed === areaWritten(before)) return { value: before };
  const [, kind, rest] = /^(circle|rect)\s+(.+)$/.exec(trimmed) ?? [];
  const radius = Number(rest);
  if (kind === 'circle' && radius > 0 && Number.isFinite(radius)) return { value: { circle: radius } };
  const rect = kind === 'rect' ? readPair(rest) : null;
  return rect ? { value: { rect } } : { error: 'circle 5, or rect 4 x 2; a polygon is drawn on a placement' };
}
