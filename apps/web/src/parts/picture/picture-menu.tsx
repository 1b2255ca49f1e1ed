import { dotText, mermaidText, type Diagram } from '@oquel/core';
import type { ReactNode } from 'react';
import { useSession, useSessionState } from '../../session/session-context.js';
import { listBuilds } from '../../api/client.js';
import { copyText } from '../clipboard.js';
import { saveFile } from '../save-file.js';
import { pngOf, standaloneSvg, type Drawn } from './picture.js';
import { isoToday } from '../../format.js';

interface Props {
  title: string;
  /** The drawing as it is on the screen now; null if there is none. */
  drawing: () => SVGSVGElement | Drawn | null;
  /** What is said where there is none. */
  none?: string;
  /** The same as a graph, for documents that draw it themselves. */
  diagram?: () => Diagram;
}

/** Takes a drawing out: as SVG or PNG with its title, project and date; as Mermaid or DOT text. */
export function PictureMenu({
  title,
  drawing,
  none = 'There is no drawing to save',
  diagram,
}: Props): ReactNode {
  const session = useSession();
  const { id, project } = useSessionState();
  const take = async (as: string): Promise<void> => {
    try {
      if (as === 'mermaid' || as === 'dot') {
        if (!diagram) return;
        await copyText(as === 'mermaid' ? mermaidText(diagram()) : dotText(diagram()));
        session.notice(`${as === 'mermaid' ? 'Mermaid' : 'DOT'} text copied`, 'info');
        return;
      }
      const svg = drawing();
      if (!svg) return session.notice(none, 'refused');
      const date = isoToday();
      const state = await stateText(id, session.storedVersion);
      const text = await standaloneSvg(svg, { title, project: project.name, state, date });
      const name = title.replace(/[\\/:*?"<>|]/g, ' ').trim();
      if (as === 'svg') saveFile(`${name}.svg`, 'image/svg+xml', text);
      else saveFile(`${name}.png`, 'image/png', await pngOf(text));
    } catch (error) {
      session.notice(
        `The picture was not saved: ${error instanceof Error ? error.message : String(error)}`,
        'refused',
      );
    }
  };
  return (
    <select
      className="line"
      style={{ width: 92 }}
      aria-label={`Export ${title}`}
      value=""
      onChange={(e) => void take(e.target.value)}
    >
      <option value="">Export ...</option>
      <option value="svg">Save as SVG</option>
      <option value="png">Save as PNG</option>
      {diagram && <option value="mermaid">Copy as Mermaid</option>}
      {diagram && <option value="dot">Copy as DOT</option>}
    </select>
  );
}

/** What a picture shows: a build, or how far the project has come since the last one. */
async function stateText(id: string, version: number): Promise<string> {
  const builds = await listBuilds(id).catch(() => []);
  const [last] = builds.filter((b) => b.version !== null).sort((a, b) => (b.version ?? 0) - (a.version ?? 0));
  if (!last) return `edit ${version}`;
  return last.version === version ? `build ${last.name}` : `edit ${version}, after build ${last.name}`;
}
