import { useCallback } from 'react';
import { useNavigate, useSearchParams } from 'react-router';

/** Puts values under names of the address; an empty one takes its name away. */
export type GoTo = (part: Readonly<Record<string, string>>, replace?: boolean) => void;

/** Changes the query of the address into the next one. */
export type QueryChange = (next: URLSearchParams) => void;

/**
 * The query that was asked for last on a page and has not come into the address yet. A view renders later than the
 * address changes, so what it was rendered with may be old: two changes soon after one another would
 * take each other back. On another page it is of no account.
 */
let asked: { path: string; search: string } | null = null;

/** The query as it was asked for last, which a view may not have been rendered with yet: keys come faster. */
export function queryNow(): URLSearchParams {
  const { pathname, search } = window.location;
  return new URLSearchParams(asked?.path === pathname ? asked.search : search);
}

/** Changes the query of the address from what it is now, whatever a view was rendered with. */
export function useChangeQuery(): (change: QueryChange, replace: boolean) => void {
  const navigate = useNavigate();
  return useCallback(
    (change, replace) => {
      const next = queryNow();
      change(next);
      const own = { path: window.location.pathname, search: `?${next}` };
      asked = own;
      void Promise.resolve(navigate(own.search, { replace })).finally(() => {
        if (asked === own) asked = null;
      });
    },
    [navigate],
  );
}

/** The query of the address, which holds what a view shows, and the way to change parts of it. */
export function useQuery(): { params: URLSearchParams; go: GoTo } {
  const [params] = useSearchParams();
  const changeQuery = useChangeQuery();
  const go = useCallback<GoTo>(
    (part, replace = true) =>
      changeQuery((next) => {
        for (const [name, value] of Object.entries(part)) {
          if (value === '') next.delete(name);
          else next.set(name, value);
        }
      }, replace),
    [changeQuery],
  );
  return { params, go };
}
