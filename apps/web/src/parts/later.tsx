import { lazy, Suspense, type ComponentType, type ReactNode } from 'react';

const WAITING: (() => Promise<unknown>)[] = [];

/** What is loaded when the first view stands and the browser has nothing else to do. */
export function whenIdle(load: () => Promise<unknown>): void {
  WAITING.push(load);
}

/**
 * A component that is loaded when the first view stands, not with it: what is opened by a key is there when the key comes.
 * Until it is loaded, `meanwhile` is drawn in its place, or nothing.
 */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
  meanwhile: (props: P) => ReactNode = () => null,
): (props: P) => ReactNode {
  let loading: Promise<{ default: ComponentType<P> }> | null = null;
  const once = (): Promise<{ default: ComponentType<P> }> =>
    (loading ??= load().then(
      (component) => ({ default: component }),
      (error: unknown) => {
        // What could not be loaded is asked for again.
        loading = null;
        throw error;
      },
    ));
  WAITING.push(once);
  const Loaded = lazy(once) as unknown as ComponentType<P>;
  return function Later(props: P): ReactNode {
    return (
      <Suspense fallback={meanwhile(props)}>
        <Loaded {...props} />
      </Suspense>
    );
  };
}

/** Loads what was put off, one after another, when the browser has nothing else to do. */
export function loadLater(): void {
  const next = WAITING.shift();
  if (!next) return;
  // What cannot be loaded now is asked for again when it is opened.
  const load = (): void => void next().then(loadLater, loadLater);
  if ('requestIdleCallback' in window) window.requestIdleCallback(load);
  else setTimeout(load, 200);
}
