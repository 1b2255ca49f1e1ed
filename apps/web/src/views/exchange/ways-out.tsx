import { assetLines, bindingsCsv, projectLines, tableCsv, type AnyKind, type LinesText } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { picturesFrom } from '../../api/pictures.js';
import { copyText } from '../../parts/clipboard.js';
import { saveFile } from '../../parts/save-file.js';
import { useSession, useSessionState } from '../../session/session-context.js';
import { ALL_KINDS, kindText } from './kind-text.js';

/** Everything that the project can be saved as. */
export function WaysOut(): ReactNode {
  const session = useSession();
  const { id, index, project } = useSessionState();
  const [fault, setFault] = useState('');
  const [kind, setKind] = useState<AnyKind>('bindings');
  const [part, setPart] = useState('');
  const lines = (): LinesText => (part === '' ? projectLines(index) : assetLines(index, [part]));
  const [copied, setCopied] = useState('');
  const table = (delimiter: ',' | '\t'): string =>
    kind === 'bindings' ? bindingsCsv(project, delimiter) : tableCsv(index, kind, delimiter);
  const name = project.name.replace(/[\\/:*?"<>|]/g, ' ').trim() || 'project';
  const save = async (
    file: string,
    type: string,
    make: () => Promise<string | Uint8Array>,
  ): Promise<void> => {
    setFault('');
    try {
      saveFile(file, type, await make());
    } catch (error) {
      setFault(`${file} was not exported: ${error instanceof Error ? error.message : String(error)}`);
    }
  };
  const ways: [string, string, ReactNode][] = [
    [
      'Document',
      'One file: what the command line and this page read.',
      <a
        key="document"
        className="tick"
        href={`/api/projects/${id}/document`}
        download={`${name}.oquel.json`}
      >
        Save .json
      </a>,
    ],
    [
      'Folder',
      'A file for each scene, prefab, widget and picture, for version control.',
      <Save
        key="zip"
        word=".zip"
        onSave={() =>
          save(`${name}.zip`, 'application/zip', async () => session.zip(await picturesFrom(id, project)))
        }
      />,
    ],
    [
      'Tables',
      'All items of one kind, to edit in a spreadsheet and import again.',
      <span key="table" className="row">
        <select
          className="line"
          aria-label="What the table holds"
          value={kind}
          onChange={(e) => setKind(e.target.value as AnyKind)}
        >
          {ALL_KINDS.map((k) => (
            <option key={k} value={k}>
              {kindText(k)}
            </option>
          ))}
        </select>
        <Save
          word=".csv"
          onSave={() => save(`${name} ${kindText(kind)}.csv`, 'text/csv', () => Promise.resolve(table(',')))}
        />
        <button
          type="button"
          className="tick"
          title="Cells with tabs between them, as spreadsheets take them"
          onClick={() =>
            void copyText(table('\t')).then(() => setCopied(`Table of ${kindText(kind)} copied.`))
          }
        >
          Copy
        </button>
      </span>,
    ],
    [
      'Lines',
      'The project, or a part with everything it needs, as text to paste elsewhere.',
      <span key="lines" className="row">
        <select
          className="line"
          aria-label="What to export as lines"
          value={part}
          onChange={(e) => setPart(e.target.value)}
        >
          <option value="">the whole project</option>
          {index.assets.map((a) => (
            <option key={a.decl.id} value={a.decl.id}>
              {a.decl.id}
            </option>
          ))}
        </select>
        <Save
          word=".txt"
          onSave={() =>
            save(`${part === '' ? name : part}.txt`, 'text/plain', () => Promise.resolve(lines().text))
          }
        />
        <button
          type="button"
          className="tick"
          onClick={() => {
            const { text, left } = lines();
            const not = left.length > 0 ? ` Not included: ${left.slice(0, 8).join(', ')}.` : '';
            void copyText(text).then(() => setCopied(`Lines copied.${not}`));
          }}
        >
          Copy
        </button>
      </span>,
    ],
    [
      'Graph',
      'Every event, action and channel of every instance, with what joins them.',
      <span key="graph" className="row">
        <Save
          word="GraphML"
          onSave={() => save(`${name}.graphml`, 'application/xml', () => session.graph('graphml'))}
        />
        <Save
          word="edges .csv"
          onSave={() => save(`${name} graph.csv`, 'text/csv', () => session.graph('csv'))}
        />
      </span>,
    ],
  ];
  return (
    <aside className="goout" aria-label="Export">
      <h2>Export</h2>
      <p role="status" className="soft">
        {copied}
      </p>
      <dl>
        {ways.map(([what, why, how]) => (
          <div key={what}>
            <dt>{what}</dt>
            <dd>{why}</dd>
            <dd>{how}</dd>
          </div>
        ))}
      </dl>
      {fault !== '' && (
        <p role="alert" className="fault error">
          {fault}
        </p>
      )}
      <p className="soft">
        Export the audit from <Link to={`/p/${id}/audit`}>Audit</Link>, the list of all events from{' '}
        <Link to={`/p/${id}/catalogue`}>Catalogue</Link>, builds from{' '}
        <Link to={`/p/${id}/builds`}>Builds</Link>.
      </p>
    </aside>
  );
}

function Save({ word, onSave }: { word: string; onSave: () => Promise<void> }): ReactNode {
  return (
    <button type="button" className="tick" onClick={() => void onSave()}>
      Save {word}
    </button>
  );
}
