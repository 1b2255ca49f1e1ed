import { useMemo } from 'react';
import { clustered, type Cluster } from './clusters.js';
import { placeLabels, type PlacedLabel } from './labels.js';
import { REACH } from './mark-shape.js';
import type { ThingStyle } from './plan-thing.js';
import type { Thing } from './thing.js';
import { toScreen, type Viewport } from './viewport.js';

/** Room around what is seen in which things are drawn as well, to be there when the plan is pushed. Pixels. */
export const AROUND = 200;
/** Of labels, and of areas inside of things. */
export const MOST_LABELS = 500;

/** What of a plan's things is drawn: marks, dots that stand for many, and labels that do not collide. */
export interface ShownThings {
  /** Radius of a mark in pixels. */
  mark: number;
  shown: readonly Thing[];
  clusters: readonly Cluster[];
  labels: ReadonlyMap<string, PlacedLabel>;
}

export function useShownThings(
  things: readonly Thing[],
  thingStyles: ReadonlyMap<string, ThingStyle>,
  { view, width, height }: { view: Viewport; width: number; height: number },
): ShownThings {
  const within = useMemo(
    () =>
      things.filter((t) => {
        if (t.depth > 1 && !thingStyles.has(t.path)) return false;
        const [x, y] = toScreen(view, t.at);
        return x > -AROUND && y > -AROUND && x < width + AROUND && y < height + AROUND;
      }),
    [things, thingStyles, view, width, height],
  );
  const mark = Math.min(13, Math.max(8, view.scale * 2.6));
  // What is pointed out always stands by itself.
  const { alone: shown, clusters } = useMemo(
    () =>
      clustered(
        within,
        (t) => toScreen(view, t.at),
        mark,
        ({ path }) => {
          const look = thingStyles.get(path);
          return look?.chosen === true || look?.picked === true || look?.order !== undefined;
        },
      ),
    [within, view, mark, thingStyles],
  );
  const labels = useMemo(() => {
    // What is faded gives way: it has no label, and its mark is no obstacle.
    const rankOf = (t: Thing): number => {
      const look = thingStyles.get(t.path);
      return look?.chosen ? 4 : look?.picked ? 3 : look?.lit ? 2 : 1;
    };
    const wished = shown.filter((t) => !thingStyles.get(t.path)?.faded);
    // Where so many crowd, hardly any label finds room; it is not tried for all.
    const labelled =
      wished.length <= MOST_LABELS
        ? wished
        : [...wished.filter((t) => rankOf(t) > 1), ...wished.filter((t) => rankOf(t) === 1)].slice(
            0,
            MOST_LABELS,
          );
    return placeLabels(
      labelled.map((t) => {
        const [x, y] = toScreen(view, t.at);
        const rank = rankOf(t);
        const radius = reachOf(t, mark);
        return { id: t.path, text: t.label, kind: t.asset, x, y, radius, rank, isNeeded: rank > 1 };
      }),
      { width, height },
      clusters,
    );
  }, [shown, clusters, view, thingStyles, mark, width, height]);
  return { mark, shown, clusters, labels };
}

/** How far the shape of a mark reaches. */
function reachOf(t: Thing, mark: number): number {
  return radiusOf(t, mark) * (t.kind === 'widget' ? 1.15 : (REACH[t.mark] ?? 1));
}
/** Pixels. Nested things are drawn smaller. */
export function radiusOf(t: Thing, mark: number): number {
  return t.depth > 1 ? mark * 0.6 : mark;
}
