import { describe, expect, it } from '@jest/globals';
import { agoText, countText, dayText, englishOf, numberText } from '../src/format.js';

describe('dates and numbers', () => {
  it.each([
    ['de-AT', 'en-AT'],
    ['fr', 'en-FR'],
    ['en-US', 'en-US'],
    ['en', 'en-US'],
    ['pt-BR', 'en-BR'],
    ['not a language', 'en-GB'],
  ])('for %s are English as it is written in %s', (language, locale) => {
    expect(englishOf(language)).toBe(locale);
  });
  it('groups digits where there are many, and agrees in number', () => {
    expect([1, 950, 1200].map((n) => countText(n, 'finding'))).toEqual([
      '1 finding',
      '950 findings',
      '1200 findings',
    ]);
    expect(numberText(100_000)).toMatch(/^100\D000$/);
    expect(countText(2, 'branch', 'branches')).toBe('2 branches');
  });
  it('names the month', () => expect(dayText('2026-11-24T12:00:00Z')).toMatch(/Nov/));
  it.each([
    [5, 'just now'],
    [60, '1 minute ago'],
    [3 * 3600 + 5, '3 hours ago'],
    [86_400, 'yesterday'],
    [86_400 * 40, 'last month'],
    [-100, 'just now'],
  ])('%s seconds ago is %s', (seconds, text) => {
    const now = Date.parse('2026-11-24T12:00:00Z');
    expect(agoText(new Date(now - seconds * 1000).toISOString(), now)).toBe(text);
  });
});
