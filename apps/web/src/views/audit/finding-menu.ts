import type { Finding } from '@oquel/core';
import { copyText } from '../../parts/clipboard.js';
import type { Place } from '../../parts/places.js';
import type { Choices } from '../../parts/ui/choices.js';

/** What can be done with a finding of the list; it is shown beside the list already. */
export function findingChoices(
  finding: Finding,
  ways: {
    places: readonly Place[];
    to: (href: string) => void;
    /** Only findings of its rule are listed. */
    isFiltered: boolean;
    only: (rule: string) => void;
  },
): Choices {
  const { rule, message, fingerprint } = finding;
  return {
    of: rule,
    groups: [
      [
        { label: 'Go to its fixes', onDo: () => focusIn('.finding .fixes button') },
        {
          label: finding.waived ? 'Go to its waiver' : 'Waive it',
          onDo: () => focusIn('.finding .waive input'),
        },
      ],
      ways.places.map(({ text, href }) => ({ label: `Open in Wire: ${text}`, onDo: () => ways.to(href) })),
      [
        ways.isFiltered
          ? { label: 'Show all rules', onDo: () => ways.only('') }
          : { label: `Show only ${rule}`, onDo: () => ways.only(rule) },
      ],
      [
        { label: 'Copy its message', onDo: () => void copyText(message) },
        { label: 'Copy its fingerprint', onDo: () => void copyText(fingerprint) },
      ],
    ],
  };
}

/** Fixes are tried before they are shown; once they are there the first one has the focus. */
function focusIn(selector: string, tries = 20): void {
  const found = document.querySelector<HTMLElement>(selector);
  if (found) {
    found.scrollIntoView({ block: 'nearest' });
    found.focus();
  } else if (tries > 0) setTimeout(() => focusIn(selector, tries - 1), 100);
}
