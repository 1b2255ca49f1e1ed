import type { CatalogueEntry } from '@oquel/core';
import { copyText } from '../../parts/clipboard.js';
import { rippleHref } from '../../parts/ripple-href.js';
import type { Choice, Choices } from '../../parts/ui/choices.js';

/** What can be done with an entry of the list; beside the list it is shown already, with the fields that the menu leads to. */
export function entryChoices(entry: CatalogueEntry, base: string, to: (href: string) => void): Choices {
  const { kind, asset, name } = entry;
  const start = kind === 'channel' ? { channel: name } : { asset, name };
  const ripple: Choice[] =
    kind === 'event' || kind === 'channel'
      ? [{ label: 'What follows', onDo: () => to(rippleHref(base, start)) }]
      : kind === 'action'
        ? [{ label: 'What leads here', onDo: () => to(rippleHref(base, start, 'backward')) }]
        : [];
  const define: Choice[] =
    asset === ''
      ? []
      : [{ label: `Open the definition of ${asset}`, onDo: () => to(`${base}/plan?scope=${asset}`) }];
  return {
    of: name,
    groups: [
      [{ label: 'Rename', keys: 'F2', onDo: renameEntry }],
      [...ripple, ...define],
      [{ label: 'Copy its name', onDo: () => void copyText(name) }],
      [{ label: 'Remove', onDo: () => panel<HTMLButtonElement>('button[data-action="remove"]')?.click() }],
    ],
  };
}
/** Selects the name of the entry that is shown, to be typed over. */
export function renameEntry(): void {
  const field = panel<HTMLInputElement>('input[aria-label^="Name of"]');
  field?.focus();
  field?.select();
}
function panel<E extends Element>(selector: string): E | null {
  return document.querySelector<E>(`.entrypanel ${selector}`);
}
