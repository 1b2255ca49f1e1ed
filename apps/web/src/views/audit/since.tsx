import { useQuery as useServer } from '@tanstack/react-query';
import { readBaseline, type Finding, type FindingChange } from '@oquel/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { buildText, listBuilds } from '../../api/client.js';
import { useSessionState } from '../../session/session-context.js';
import { countText } from '../../format.js';

const FILE = 'file';

/** An earlier audit to compare with. */
export interface Baseline {
  name: string;
  findings: readonly Finding[];
}

/** Shows only what is new since an earlier audit: that of a build, or one that was saved as a file. */
export function Since({
  baseline,
  since,
  build,
  onBuild,
  onChange,
}: {
  baseline: Baseline | null;
  since: FindingChange | null;
  /** The build that is asked for; empty for none. */
  build: string;
  onBuild: (build: string) => void;
  onChange: (baseline: Baseline | null) => void;
}): ReactNode {
  const { id, buildsChanged } = useSessionState();
  const builds = useServer({
    queryKey: ['builds', id, buildsChanged],
    queryFn: () => listBuilds(id),
    retry: false,
  });
  const asked = builds.data?.find((b) => b.id === build);
  const audited = useServer({
    queryKey: ['build audit', id, build],
    queryFn: () => buildText(id, build, 'audit'),
    enabled: asked !== undefined,
    staleTime: Infinity,
    retry: false,
  });
  const name = asked?.name;
  const failed = builds.error ? builds : audited.error ? audited : null;
  useEffect(() => {
    if (name === undefined || audited.data === undefined) return;
    onChange({ name, findings: readBaseline(audited.data).findings });
  }, [name, audited.data, onChange]);
  const input = useRef<HTMLInputElement>(null);
  const [fault, setFault] = useState('');
  const read = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    try {
      const { findings } = readBaseline(await file.text());
      setFault('');
      onBuild('');
      onChange({ name: file.name, findings });
    } catch (error) {
      setFault(`${file.name} is not an audit: ${error instanceof Error ? error.message : String(error)}`);
    }
  };
  return (
    <>
      <input
        ref={input}
        type="file"
        hidden
        accept=".json,application/json"
        aria-label="An earlier audit"
        onChange={(e) => {
          void read(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
      {baseline && since ? (
        <span role="status">
          <b>{countText(since.added.length, 'finding')} new</b>, {since.gone.length} gone since{' '}
          {baseline.name}{' '}
          <button
            type="button"
            className="word"
            onClick={() => {
              onBuild('');
              onChange(null);
            }}
          >
            Show all
          </button>
        </span>
      ) : (
        <select
          className="line"
          aria-label="New since"
          value=""
          onChange={(e) => (e.target.value === FILE ? input.current?.click() : onBuild(e.target.value))}
        >
          <option value="">New since ...</option>
          {[...(builds.data ?? [])].reverse().map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
          <option value={FILE}>an audit in a file ...</option>
        </select>
      )}
      {build !== '' && builds.data && !asked && (
        <span className="fault error" role="alert">
          There is no such build.
        </span>
      )}
      {failed && build !== '' && (
        <span className="fault error" role="alert">
          That build’s audit cannot be read: {failed.error?.message}.{' '}
          <button type="button" className="word" onClick={() => void failed.refetch()}>
            Try again
          </button>
        </span>
      )}
      {fault !== '' && (
        <span className="fault error" role="alert">
          {fault}
        </span>
      )}
    </>
  );
}
