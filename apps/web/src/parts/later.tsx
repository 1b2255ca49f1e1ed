import { useEffect, useSyncExternalStore, type ComponentType, type ReactNode } from 'react';

type Load = () => Promise<unknown>;
/** What a key opens at once; and views, which are gone to later than they can be thought of. */
const WAITING: { parts: Load[]; views: Load[] } = { parts: [], views: [] };
/** Milliseconds after the first view stands in which no other one is loaded: the audit has the machine to itself. */
const SETTLED = 3000;

/** What a key leads to from the first view: loaded as soon as the browser has nothing else to do. */
export function whenIdle(load: Load): void {
  WAITING.parts.push(load);
}
/** A view that is loaded some time after the first one stands, when the browser has nothing else to do. */
export function whenSettled(load: Load): void {
  WAITING.views.push(load);
}

interface Instead<P> {
  /** Drawn in its place until it is loaded; nothing if not given. */
  meanwhile?: (props: P) => ReactNode;
  /** Nobody has opened it, so nobody needs to know that it is missing. */
  isUnasked?: boolean;
  /** It is heavy and rarely opened: it is not loaded before it is. */
  isHeavy?: boolean;
}

/**
 * A component that is loaded when the first view stands, not with it: what is opened by a key is there when the key comes.
 * While it is wanted and cannot be loaded, it is asked for again; that it is missing takes nothing else away.
 */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
  { meanwhile = () => null, isUnasked = false, isHeavy = false }: Instead<P> = {},
): (props: P) => ReactNode {
  let loading: Promise<void> | null = null;
  let loaded: ComponentType<P> | null = null;
  let hasFailed = false;
  const listeners = new Set<() => void>();
  const notify = (): void => listeners.forEach((listener) => listener());
  const once = (): Promise<void> =>
    (loading ??= load().then(
      (component) => {
        loaded = component;
        hasFailed = false;
        notify();
      },
      () => {
        hasFailed = true;
        notify();
      },
    ));
  const subscribe = (listener: () => void): (() => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  };
  if (!isHeavy) WAITING.parts.push(once);
  return function Later(props: P): ReactNode {
    const Loaded = useSyncExternalStore(subscribe, () => loaded);
    const isMissing = useSyncExternalStore(subscribe, () => hasFailed);
    useEffect(() => {
      if (!Loaded) void once();
    }, [Loaded]);
    if (Loaded) return <Loaded {...props} />;
    if (!isMissing || isUnasked) return meanwhile(props);
    return (
      <p className="notloaded" role="alert">
        This part could not be loaded: the server did not answer. What you did is kept.{' '}
        <button type="button" className="tick" onClick={() => window.location.reload()}>
          Load the page again
        </button>
      </p>
    );
  };
}

/** Loads what was put off, one after another, when the browser has nothing else to do: parts at once, views in a while. */
export function loadLater(): void {
  loadEach(WAITING.parts);
  setTimeout(() => loadEach(WAITING.views), SETTLED);
}
function loadEach(waiting: Load[]): void {
  const next = waiting.shift();
  if (!next) return;
  const goOn = (): void => loadEach(waiting);
  // What cannot be loaded now is asked for again when it is opened.
  const load = (): void => void next().then(goOn, goOn);
  if ('requestIdleCallback' in window) window.requestIdleCallback(load);
  else setTimeout(load, 200);
}
