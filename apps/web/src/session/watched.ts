import { useSyncExternalStore } from 'react';

/** A value that changes more often than most views want to hear of: only who watches it is drawn again. */
export class Watched<T> {
  private readonly listeners = new Set<() => void>();

  constructor(private value: T) {}

  get = (): T => this.value;
  set(value: T): void {
    this.value = value;
    for (const listener of this.listeners) listener();
  }
  watch = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
}
export function useWatched<T>({ watch, get }: Watched<T>): T {
  return useSyncExternalStore(watch, get);
}
