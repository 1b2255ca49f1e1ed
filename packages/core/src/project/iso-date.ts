export const ISO_DATE = /^\d{4}-\d{2}-\d{2}$/;

/** Whether a value is a day of the calendar, such as 2026-11-24. */
export function isIsoDate(value: unknown): value is string {
  if (typeof value !== 'string' || !ISO_DATE.test(value)) return false;
  const time = Date.parse(`${value}T00:00:00Z`);
  return !Number.isNaN(time) && new Date(time).toISOString().startsWith(value);
}
