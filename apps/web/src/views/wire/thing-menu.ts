import { assetAtPath, printBinding, type AssetIndex, type ProjectIndex } from '@oquel/core';
import { copyText } from '../../parts/clipboard.js';
import { rippleHref, startAt } from '../../parts/ripple-href.js';
import { walkHref } from '../../parts/walk-link.js';
import type { Choices } from '../../parts/ui/choices.js';

/** What can be done in Wire with a thing on the plan. */
export function thingChoices(
  index: ProjectIndex,
  owner: AssetIndex,
  path: string,
  ways: {
    base: string;
    /** Makes it the sender. */
    go: (part: { at: string }) => void;
    /** Makes it the sender and opens the finder on its first event. */
    open: (path: string) => void;
    to: (href: string) => void;
  },
): Choices {
  const { base, go, open, to } = ways;
  const asset = assetAtPath(index, owner, path);
  const own = owner.bindings.filter((b) => 'at' in b.from && b.from.at === path);
  const [placed] = path.split('/');
  const says = (asset?.events.length ?? 0) > 0;
  return {
    of: path === '.' ? owner.decl.id : path,
    groups: [
      [
        { label: 'Choose it as the sender', onDo: () => go({ at: path }) },
        { label: 'Add a receiver', keys: 'A', onDo: says ? () => open(path) : undefined },
        {
          label: 'What follows',
          onDo: says ? () => to(rippleHref(base, startAt(index, owner, path))) : undefined,
        },
        { label: 'Walk here', keys: 'T', onDo: () => to(walkHref(base, owner, path)) },
      ],
      [
        {
          label: 'Copy its wiring as lines',
          onDo: own.length > 0 ? () => void copyText(own.map(printBinding).join('\n')) : undefined,
        },
      ],
      [
        {
          label: 'Show it on Plan',
          onDo: owner.placementAt.has(placed)
            ? () => to(`${base}/plan?scope=${owner.decl.id}&chosen=${placed}`)
            : undefined,
        },
        {
          label: 'Open its definition',
          onDo: asset ? () => to(`${base}/plan?scope=${asset.decl.id}`) : undefined,
        },
      ],
    ],
  };
}
