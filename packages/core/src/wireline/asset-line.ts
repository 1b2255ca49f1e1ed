import { MARKS, type Mark } from '../project/marks.js';
import type { Asset, AssetKind } from '../project/types.js';
import { areaAt, printArea, printSize, sizeAt } from './area.js';
import { attempt, nameAt, type ParsedText } from './declared.js';
import { printName } from './names.js';
import type { Scanner } from './scanner.js';

/** A scene, prefab or widget without what it declares, places and binds. */
export type AssetHead = Omit<Asset, 'properties' | 'events' | 'actions' | 'placements' | 'bindings'>;

/** `scene yard 60 x 40 always loaded #night note "..."`: the line under which what it declares, places and binds stands. */
export function printAssetHead(asset: AssetHead): string {
  const words: string[] = [asset.kind, printName(asset.id)];
  if (asset.size) words.push(printSize(asset.size));
  if (asset.area) words.push(`area ${printArea(asset.area)}`);
  if (asset.mark) words.push(`mark ${asset.mark}`);
  if (asset.persistent) words.push('always loaded');
  if (asset.runsInPause) words.push('runs in pause');
  if (asset.existsOn === 'authority') words.push('on authority');
  for (const tag of asset.tags ?? []) words.push(`#${printName(tag)}`);
  if (asset.note !== undefined) words.push(`note ${JSON.stringify(asset.note)}`);
  return words.join(' ');
}

function markAt(s: Scanner): Mark {
  const word = s.take(/^[a-z]+(?![\w-])/);
  return MARKS.find((m) => m === word) ?? s.fail(MARKS.join(', '));
}

/** Whether a line means to be the head of a scene, prefab or widget. */
export function isAssetHead(text: string): boolean {
  return /^\s*(?:scene|prefab|widget)(?![\w-])/.test(text);
}
/** Reads such a line; what follows the name may stand in any order. */
export function parseAssetHead(text: string): ParsedText<AssetHead> {
  return attempt(text, (s) => {
    const kind = (s.take(/^(?:scene|prefab|widget)(?![\w-])/) ??
      s.fail('scene, prefab or widget')) as AssetKind;
    const head: AssetHead = { id: nameAt(s, `the name of the ${kind}`), kind };
    while (!s.ended) {
      if (kind === 'scene' && s.sees(/^\d/)) head.size = sizeAt(s);
      else if (s.takeWord('area')) head.area = areaAt(s);
      else if (s.takeWord('mark')) head.mark = markAt(s);
      else if (s.take(/^always\s+loaded(?![\w-])/) !== null) head.persistent = true;
      else if (s.take(/^runs\s+in\s+pause(?![\w-])/) !== null) head.runsInPause = true;
      else if (s.take(/^on\s+authority(?![\w-])/) !== null) head.existsOn = 'authority';
      else if (s.take(/^#/) !== null) (head.tags ??= []).push(nameAt(s, 'a tag'));
      else if (s.takeWord('note')) {
        s.skipBlanks();
        head.note = s.takeQuoted() ?? s.fail('text in quotes');
      } else s.fail('area, mark, always loaded, runs in pause, on authority, # and a tag, note, or the end');
    }
    return head;
  });
}
