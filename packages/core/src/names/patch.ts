/** The very same object if none of the parts differs; otherwise a copy with them, each in its place. */
export function patched<T extends object>(whole: T, parts: Partial<T>): T {
  for (const key of Object.keys(parts) as (keyof T)[])
    if (parts[key] !== whole[key]) return { ...whole, ...parts };
  return whole;
}
/** The very same list if no item differs. */
export function each<L extends readonly unknown[] | undefined>(
  list: L,
  change: (item: NonNullable<L>[number], at: number) => NonNullable<L>[number],
): L {
  if (list === undefined) return list;
  let next: unknown[] | null = null;
  for (let i = 0; i < list.length; i++) {
    const item = change(list[i], i);
    if (next) next.push(item);
    else if (item !== list[i]) next = [...list.slice(0, i), item];
  }
  return (next ?? list) as L;
}
/** The very same record if neither a name nor a value differs; names keep their order. */
export function eachEntry<T, R extends Readonly<Record<string, T>> = Readonly<Record<string, T>>>(
  record: R | undefined,
  change: (name: string, value: T) => readonly [string, T],
): R | undefined {
  if (record === undefined) return record;
  let differs = false;
  const entries = Object.entries<T>(record).map(([name, value]) => {
    const next = change(name, value);
    differs ||= next[0] !== name || next[1] !== value;
    return next;
  });
  return differs ? (Object.fromEntries(entries) as unknown as R) : record;
}
