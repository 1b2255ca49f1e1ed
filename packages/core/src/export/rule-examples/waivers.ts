import type { RuleExample } from './example.js';

/** Examples of the rules on waivers. */
export const WAIVERS: Readonly<Record<string, RuleExample>> = {
  'idle-waiver': {
    fires: 'scene quay',
    beside: { waivers: [{ fingerprint: 'ffffffffffffffff', reason: 'was so once', by: 'mira' }] },
    almost: 'scene quay',
    almostBeside: {},
    but: 'there is no waiver',
  },
  'stale-waiver': {
    fires: 'scene quay',
    beside: {
      waivers: [{ fingerprint: 'ffffffffffffffff', reason: 'for the fair', by: 'mira', until: '2026-01-01' }],
    },
    almost: 'scene quay',
    almostBeside: {
      waivers: [{ fingerprint: 'ffffffffffffffff', reason: 'for the fair', by: 'mira', until: '9999-01-01' }],
    },
    but: 'its day has not come',
  },
};
