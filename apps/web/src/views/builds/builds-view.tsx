import './builds.css';
import { useQuery as useServer } from '@tanstack/react-query';
import { useEffect, useRef, type ReactNode } from 'react';
import { listBuilds } from '../../api/client.js';
import { later } from '../../parts/later.js';
import { useQuery } from '../../parts/use-query.js';
import { useSessionState } from '../../session/session-context.js';
import { BuildHead } from './build-head.js';
import { Changes } from './changes.js';
import { Freeze } from './freeze.js';
import { Ledger } from './ledger.js';
import { useNavigation } from 'react-router';
import { useSidePanel } from '../../parts/ui/side-panel.js';

// Its charts are heavy.
const Trend = later(async () => (await import('../../parts/trend/trend.js')).Trend, {
  meanwhile: () => <p className="soft none">Drawing ...</p>,
  isHeavy: true,
});

/** What was frozen, what was said of it, and what has changed from one to another. */
export function BuildsView(): ReactNode {
  const { id, buildsChanged } = useSessionState();
  const { params, go } = useQuery();
  const { data, error, refetch } = useServer({
    queryKey: ['builds', id, buildsChanged],
    queryFn: () => listBuilds(id),
    placeholderData: (old) => old,
    retry: false,
  });
  const builds = data ?? [];
  const wanted = params.get('build');
  const build = wanted === null ? builds[builds.length - 1] : builds.find((b) => b.id === wanted);
  const open = (build: string): void => go({ build, with: '', of: '', how: '', show: '' }, false);
  // Whoever goes elsewhere while a build is frozen is not brought back: not even while the other view is loaded.
  const navigation = useNavigation();
  const stays = useRef(false);
  useEffect(() => {
    stays.current = navigation.state === 'idle';
    return () => {
      stays.current = false;
    };
  }, [navigation.state]);
  const openFrozen = async ({ id }: { id: string }): Promise<void> => {
    await refetch();
    if (stays.current) open(id);
  };
  const panel = useSidePanel({
    name: 'builds',
    label: 'Width of the list of builds',
    side: 'left',
    share: 0.31,
    min: 280,
  });
  return (
    <div className="builds" style={panel.style}>
      {panel.divider}
      <div className="ledgerside">
        <h1 className="unseen">Builds</h1>
        <Freeze onFrozen={(b) => void openFrozen(b)} />
        {error && (
          <p role="alert" className="none fault error">
            The builds cannot be read: {error.message}.{' '}
            <button type="button" className="word" onClick={() => void refetch()}>
              Try again
            </button>
          </p>
        )}
        {!data && !error && <p className="soft none">Loading builds ...</p>}
        {data && <Ledger builds={builds} chosen={build?.id ?? ''} onOpen={open} />}
        {builds.length > 0 && <Trend builds={builds} onOpen={open} />}
      </div>
      {build && (
        <div className="buildside">
          <BuildHead key={build.id} build={build} onChanged={() => void refetch()} />
          <Changes key={`${build.id}/changes`} build={build} builds={builds} />
        </div>
      )}
      {!build && data && (
        <div className="middle">
          {builds.length === 0 ? (
            <>
              <p>No build has been frozen yet.</p>
              <p>
                Freeze one to keep the project, its audit and the gate’s verdict as they are now, and to see
                later what has changed since.
              </p>
            </>
          ) : (
            <p>There is no such build.</p>
          )}
        </div>
      )}
    </div>
  );
}
