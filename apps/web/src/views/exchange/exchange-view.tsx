import './exchange.css';
import { useEffect, useRef, useState, type DragEvent, type ReactNode } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { importDocument } from '../../api/client.js';
import { storePictures } from '../../api/pictures.js';
import { isManifestText, textKind } from '@oquel/core';
import { isForView } from '../../parts/clipboard.js';
import { usePastedLines } from '../../parts/lines-panel/use-pasted-lines.js';
import { readFile } from '../../parts/incoming/read-file.js';
import { useWork } from '../../parts/ui/use-work.js';
import { WorkProgress } from '../../parts/ui/work-progress.js';
import { IncomingReport, storingFailed, UnfitReport } from '../../parts/incoming/incoming-report.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import type { Comparison } from '../../workers/auditor-answers.js';
import type { Incoming, Unfit } from '../../workers/incoming.js';
import { TablePanel } from './table-panel.js';
import { WaysOut } from './ways-out.js';
import { isoToday } from '../../format.js';

type Came =
  | {
      kind: 'document' | 'manifest';
      file: string;
      incoming: Incoming;
      comparison: Comparison;
      version: number;
    }
  | { kind: 'csv'; file: string; text: string }
  | { kind: 'unfit'; file: string; unfit: Unfit };

/** So much of a file says what it is. */
const MANIFEST_HEAD = 10_000;

/** What comes in from files, looked at before it is stored; and what goes out. */
export function ExchangeView(): ReactNode {
  const session = useSession();
  const { saving, waiting } = useSessionState();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const work = useWork();
  const [busy, setBusy] = useState('');
  const [came, setCame] = useState<Came | null>(null);
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setCame(null);
    setBusy(`Reading ${file.name}`);
    const { report, signal } = work.begin();
    try {
      if (/\.(csv|tsv|txt)$/i.test(file.name)) {
        const text = await file.text();
        if (/\.txt$/i.test(file.name) && textKind(text) !== 'table') lines.open(text);
        else setCame({ kind: 'csv', file: file.name, text });
        return;
      }
      const version = session.storedVersion;
      const isManifest = isManifestText(await file.slice(0, MANIFEST_HEAD).text());
      const today = isoToday();
      const read = isManifest
        ? await session.manifest(new Uint8Array(await file.arrayBuffer()), today, report)
        : await readFile(file, signal, report);
      if ('problems' in read) setCame({ kind: 'unfit', file: file.name, unfit: read });
      else {
        const comparison = isManifest
          ? await session.compareManifest(read)
          : await session.compareIncoming(read);
        const kind = isManifest ? 'manifest' : 'document';
        setCame({ kind, file: file.name, incoming: read, comparison, version });
      }
    } catch (error) {
      const said = error instanceof Error ? error.message : String(error);
      const message = signal.aborted ? 'Reading was cancelled' : said;
      setCame({ kind: 'unfit', file: file.name, unfit: { message, problems: [] } });
    } finally {
      setBusy('');
    }
  };
  const lines = usePastedLines(null);
  const pasted = (text: string): void => {
    if (textKind(text) === 'table') setCame({ kind: 'csv', file: 'the clipboard', text });
    else lines.open(text);
  };
  const latest = useRef(pasted);
  latest.current = pasted;
  const { state } = useLocation() as { state: { pasted?: string } | null };
  const [brought] = useState(state?.pasted);
  useEffect(() => {
    if (brought === undefined) return;
    latest.current(brought);
    // Opened anew, the page does not bring it in once more.
    window.history.replaceState(null, '');
  }, [brought]);
  useEffect(() => {
    const paste = (e: ClipboardEvent): void => {
      const text = e.clipboardData?.getData('text/plain') ?? '';
      if (text.trim() === '' || !isForView(e)) return;
      e.preventDefault();
      latest.current(text);
    };
    document.addEventListener('paste', paste);
    return () => document.removeEventListener('paste', paste);
  }, []);
  const drop = (e: DragEvent): void => {
    e.preventDefault();
    setOver(false);
    void take(e.dataTransfer.files[0]);
  };
  const unsaved = saving !== 'saved' || waiting > 0;
  const storeNew = async ({ text, pictures }: Incoming, file: string): Promise<void> => {
    setBusy(`Storing ${file}`);
    try {
      const { id } = await importDocument(text, work.begin().signal);
      await storePictures(id, pictures);
      await navigate(`/p/${id}/wire`);
    } catch (error) {
      setCame({ kind: 'unfit', file, unfit: storingFailed(error) });
    } finally {
      setBusy('');
    }
  };
  return (
    <div
      className={`exchange ${over ? 'over' : ''}`}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <div className="comein">
        <h1>Import</h1>
        <div className="row">
          <input
            ref={input}
            type="file"
            hidden
            accept=".json,.zip,.csv,.tsv,.txt"
            aria-label="File to import"
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              e.target.value = '';
              void take(chosen);
            }}
          />
          <button
            type="button"
            className="tick"
            disabled={busy !== ''}
            onClick={() => input.current?.click()}
          >
            Choose a file ...
          </button>
          <span className="soft">
            or drop one here: a document, a zip of the folder form, a manifest of the game, a table (CSV) or
            lines (.txt). Lines and rows of a spreadsheet can be pasted here.
          </span>
        </div>
        {busy !== '' && <WorkProgress what={busy} step={work.step} onCancel={work.cancel} />}
        {came?.kind === 'unfit' && <UnfitReport file={came.file} unfit={came.unfit} />}
        {(came?.kind === 'document' || came?.kind === 'manifest') && (
          <IncomingReport file={came.file} incoming={came.incoming} comparison={came.comparison}>
            <button
              type="button"
              className="tick"
              disabled={unsaved}
              title={unsaved ? 'Edits are still being saved' : 'One edit, which can be undone'}
              onClick={() => {
                const what =
                  came.kind === 'manifest' ? `merged ${came.file}` : `replaced the project with ${came.file}`;
                session.replaceBy(came.incoming.text, what, came.version);
                setCame(null);
              }}
            >
              {came.kind === 'manifest' ? 'Merge' : 'Replace this project'}
            </button>
            {came.kind === 'document' && (
              <button type="button" className="tick" onClick={() => void storeNew(came.incoming, came.file)}>
                Save as a new project
              </button>
            )}
            <button type="button" className="tick" onClick={() => setCame(null)}>
              Cancel
            </button>
          </IncomingReport>
        )}
        {came?.kind === 'csv' && (
          <TablePanel
            key={`${came.file} ${came.text.length}`}
            file={came.file}
            text={came.text}
            onDone={() => setCame(null)}
          />
        )}
      </div>
      {lines.panel}
      <WaysOut />
    </div>
  );
}
