import { MARKS, type Mark } from './marks.js';
import type { Asset } from './types.js';

/** How words in the name of an asset begin that say what it is. */
const WORDS: readonly [Mark, RegExp][] = [
  ['light', /^(?:lamp|light|lantern|beacon|torch|candle|glow|flare|bulb)/],
  ['sound', /^(?:horn|bell|siren|speaker|drum|sound|music|chime|voice)/],
  ['person', /^(?:player|guard|keeper|climber|rescuer|visitor|crew|dog|cat|person|villager|guest)/],
  ['mover', /^(?:cart|sled|boat|lift|cabin|train|wagon|ferry|winch|crane|elevator|drone|wheel)/],
  ['text', /^(?:sign|board|label|ribbon|text|message|banner|caption|notice)/],
  ['switch', /^(?:gate|door|valve|hatch|lock|shutter|barrier|bridge|brake)/],
  ['gauge', /^(?:gauge|meter|sensor|mast|counter|scale|watch)/],
  ['timer', /^(?:clock|timer|alarm)/],
  ['area', /^(?:plate|mat|zone|trigger|shelf|trap)/],
];

/**
 * The mark of an asset: the one that it is given, or by what it declares. What others come to, press or use is reported first, then
 * what its name says, then what it does. Cost: what the asset declares.
 */
export function markOf(asset: Asset): Mark {
  if (asset.mark !== undefined && MARKS.includes(asset.mark)) return asset.mark;
  const { id, events = [], actions = [] } = asset;
  const causes = new Set(events.map((e) => e.cause.type));
  const effects = actions.flatMap((a) => a.effects ?? []);
  if (effects.some((e) => 'spawn' in e) && effects.length <= 2) return 'spawner';
  const words = wordsOf(id).map((w) => w.toLowerCase());
  const named = WORDS.find(([, begins]) => words.some((w) => begins.test(w)));
  if (named) return named[0];
  if (causes.has('area-enter') || causes.has('area-leave')) return 'area';
  if (causes.has('press')) return 'press';
  if (causes.has('use')) return 'handle';
  const raises = actions.filter((a) => a.effects?.some((e) => 'raise' in e)).length;
  if (raises >= 2) return 'hub';
  if (effects.some((e) => 'spawn' in e)) return 'spawner';
  if (causes.has('timer')) return 'timer';
  if (causes.has('change') || effects.some((e) => 'set' in e || 'toggle' in e)) return 'switch';
  if (causes.has('start')) return 'start';
  return causes.has('code') ? 'gauge' : 'thing';
}

/**
 * Two letters for each asset, so that no two have the same as long as there are letters: `WindMast` is WM, `Cabin` Ca; where
 * others have them already, another letter of the name or a number takes the place of the second. Cost: the letters of the names.
 */
export function monograms(ids: readonly string[]): Map<string, string> {
  const taken = new Set<string>();
  const letters = new Map<string, string>();
  for (const id of ids) {
    const words = wordsOf(id);
    const [first] = words[0].toUpperCase();
    const plain = id.replace(/[^A-Za-z0-9]/g, '');
    const seconds = [
      ...(words.length > 1 ? [words[1][0].toUpperCase()] : []),
      ...plain.slice(1).toLowerCase(),
      ...'23456789',
      ...Array.from({ length: 90 }, (_, i) => String(i + 10)),
    ];
    const found = seconds.map((s) => first + s).find((m) => !taken.has(m)) ?? first;
    taken.add(found);
    letters.set(id, found);
  }
  return letters;
}

/** `WindMast`, `rope-gauge` and `deicer_cart_2` in their words. */
function wordsOf(id: string): string[] {
  return id.match(/[A-Z]+(?![a-z])|[A-Z]?[a-z]+|\d+/g) ?? [id];
}
