const STEPS: [seconds: number, unit: Intl.RelativeTimeFormatUnit][] = [
  [86_400 * 365, 'year'],
  [86_400 * 30, 'month'],
  [86_400, 'day'],
  [3_600, 'hour'],
  [60, 'minute'],
];
const FORMAT = new Intl.RelativeTimeFormat('en-GB', { numeric: 'auto' });

/** How long ago a time was: "3 hours ago", "yesterday", "just now". */
export function agoText(time: string, now = Date.now()): string {
  const seconds = Math.max(0, (now - Date.parse(time)) / 1000);
  const [size, unit] = STEPS.find(([s]) => seconds >= s) ?? [0, 'second'];
  return size === 0 ? 'just now' : FORMAT.format(-Math.floor(seconds / size), unit);
}
