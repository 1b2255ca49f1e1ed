/**
 * Dates, times and numbers as this browser's region writes them, in English words. The only place that formats them.
 */
const LOCALE = englishOf(globalThis.navigator?.language ?? 'en-GB');

const DAY = new Intl.DateTimeFormat(LOCALE, { day: 'numeric', month: 'short', year: 'numeric' });
const MOMENT = new Intl.DateTimeFormat(LOCALE, { dateStyle: 'medium', timeStyle: 'short' });
// Four digits are read well as they are.
const WHOLE = new Intl.NumberFormat(LOCALE, { useGrouping: 'min2' });
const TENTHS = new Intl.NumberFormat(LOCALE, {
  useGrouping: 'min2',
  minimumFractionDigits: 1,
  maximumFractionDigits: 1,
});
const SHORT = new Intl.NumberFormat(LOCALE, { notation: 'compact' });
const TINY = new Intl.NumberFormat(LOCALE, { notation: 'compact', maximumSignificantDigits: 2 });
const AGO = new Intl.RelativeTimeFormat(LOCALE, { numeric: 'auto' });
const STEPS: [seconds: number, unit: Intl.RelativeTimeFormatUnit][] = [
  [86_400 * 365, 'year'],
  [86_400 * 30, 'month'],
  [86_400, 'day'],
  [3_600, 'hour'],
  [60, 'minute'],
];

/** `de-AT` is written `en-AT`: English words, in the order and with the marks of the region. */
export function englishOf(language: string): string {
  try {
    const { region } = new Intl.Locale(language).maximize();
    return region ? `en-${region}` : 'en-GB';
  } catch {
    return 'en-GB';
  }
}

/** `24 Nov 2026` */
export function dayText(at: string): string {
  return DAY.format(new Date(at));
}
/** `24 Nov 2026, 14:05` */
export function momentText(at: string): string {
  return MOMENT.format(new Date(at));
}
/** How long ago a time was: "3 hours ago", "yesterday", "just now". */
export function agoText(time: string, now = Date.now()): string {
  const seconds = Math.max(0, (now - Date.parse(time)) / 1000);
  const [size, unit] = STEPS.find(([s]) => seconds >= s) ?? [0, 'second'];
  return size === 0 ? 'just now' : AGO.format(-Math.floor(seconds / size), unit);
}
/** Today's date as documents and addresses write it, such as `2026-11-24`; by universal time, as the server counts days. */
export function isoToday(): string {
  return new Date().toISOString().slice(0, 10);
}
/** `950`, `1200`, `100,000` */
export function numberText(n: number): string {
  return WHOLE.format(n);
}
/** `12.0`, where a figure changes while it is read. */
export function tenthsText(n: number): string {
  return TENTHS.format(n);
}
/** `0.3 MB`, `120 MB`: a size in the database. */
export function bytesText(bytes: number): string {
  const mb = bytes / 1e6;
  return `${mb < 10 ? TENTHS.format(Math.max(mb, 0.1)) : WHOLE.format(Math.round(mb))} MB`;
}
/** `1.2K`, for the axes of charts. */
export function shortNumber(n: number): string {
  return SHORT.format(n);
}
/** `980`, `4.9K`, `35K`: at most four characters, for where there is no room for more. */
export function tinyNumber(n: number): string {
  return n < 1000 ? String(n) : TINY.format(n);
}
/** `1 finding`, `3 findings`, `100,000 findings` */
export function countText(n: number, one: string, many = `${one}s`): string {
  return `${numberText(n)} ${n === 1 ? one : many}`;
}
