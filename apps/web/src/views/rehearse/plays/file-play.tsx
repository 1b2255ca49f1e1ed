import type { PlayReport } from '@oquel/core';
import { useRef, useState, type ReactNode } from 'react';
import { useWork } from '../../../parts/ui/use-work.js';
import { WorkProgress } from '../../../parts/ui/work-progress.js';
import { useSession, useSessionState } from '../../../session/session-context.js';

/** Judges a file by the project as it is, without sending it anywhere. */
export function FilePlay({
  onReport,
}: {
  onReport: (play: { name: string; report: PlayReport }) => void;
}): ReactNode {
  const session = useSession();
  const { project } = useSessionState();
  const [loadSet, setLoadSet] = useState('');
  const [fault, setFault] = useState('');
  const [busy, setBusy] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const work = useWork();
  const sets = project.loadSets ?? [];
  const read = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const { report, signal } = work.begin();
    setFault('');
    setBusy(true);
    try {
      onReport({
        name: file.name,
        report: await session.observe(file, loadSet === '' ? undefined : loadSet, report),
      });
    } catch (error) {
      if (!signal.aborted) setFault(error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-label="A file of a game">
      <h2>Judge a file</h2>
      <p className="soft">What a game has written, as JSON Lines. It is read here and not kept.</p>
      <p className="row">
        <button type="button" className="tick" onClick={() => input.current?.click()}>
          Choose a file
        </button>
        {sets.length > 0 && (
          <select
            className="line"
            aria-label="What the game had loaded"
            value={loadSet}
            onChange={(e) => setLoadSet(e.target.value)}
          >
            <option value="">every scene was loaded</option>
            {sets.map((s) => (
              <option key={s.name}>{s.name}</option>
            ))}
          </select>
        )}
      </p>
      <input
        ref={input}
        type="file"
        hidden
        aria-label="A trace of a game"
        onChange={(e) => {
          void read(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
      {busy && <WorkProgress what="Judging the file" step={work.step} onCancel={work.cancel} />}
      {fault !== '' && (
        <p role="alert" className="fault error">
          The file was not judged: {fault}.
        </p>
      )}
    </section>
  );
}
