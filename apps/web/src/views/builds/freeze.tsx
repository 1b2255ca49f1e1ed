import { useRef, useState, type ReactNode } from 'react';
import { freezeBuild, importBuild, type Build } from '../../api/client.js';
import { gateNow } from '../../session/gate.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { whoIsIt } from '../../session/who.js';

/** Freezes the project as it is, or puts a document in as a build. */
export function Freeze({ onFrozen }: { onFrozen: (build: Build) => void }): ReactNode {
  const session = useSession();
  const state = useSessionState();
  const { id, saving, waiting } = state;
  const [name, setName] = useState('');
  const [note, setNote] = useState('');
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const unsaved = saving !== 'saved' || waiting > 0;
  const run = async (freeze: () => Promise<Build>): Promise<void> => {
    setBusy(true);
    setFault('');
    try {
      const build = await freeze();
      setName('');
      setNote('');
      onFrozen(build);
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(false);
    }
  };
  const { gate } = gateNow(state);
  return (
    <form
      className="freeze"
      aria-label="Freeze a build"
      onSubmit={(e) => {
        e.preventDefault();
        void run(() =>
          freezeBuild(id, { name: name.trim(), note, who: whoIsIt(), base: session.storedVersion }),
        );
      }}
    >
      <div className="row">
        <input
          className="line grow"
          aria-label="Name of the build"
          placeholder="name of a new build"
          maxLength={100}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button
          type="submit"
          className="tick"
          disabled={busy || unsaved || name.trim() === ''}
          title={
            unsaved ? 'Edits are still being saved' : `The gate says ${gate === 'stop' ? 'stop' : 'pass'}`
          }
        >
          {busy ? 'Freezing ...' : 'Freeze'}
        </button>
      </div>
      <div className="row">
        <input
          className="line grow"
          aria-label="Note of the build"
          placeholder="note"
          maxLength={2000}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
        <button
          type="button"
          className="word"
          disabled={busy || name.trim() === ''}
          title="Import a document as a build with that name"
          onClick={() => file.current?.click()}
        >
          from a document ...
        </button>
      </div>
      <input
        ref={file}
        type="file"
        hidden
        accept=".json,application/json"
        aria-label="A document as a build"
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          e.target.value = '';
          if (!chosen) return;
          void run(async () =>
            importBuild(id, { name: name.trim(), note, who: whoIsIt() }, await chosen.text()),
          );
        }}
      />
      {fault !== '' && (
        <p role="alert" className="fault error">
          {fault}
        </p>
      )}
    </form>
  );
}
