import { Button } from '@mui/material';
import { LIMITS, type Project } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import type { ProjectLine } from '../../api/client.js';
import { sampleProject } from './sample.js';

/** What a new project begins as. */
export type Beginning = { document: Project } | { copyOf: string; name: string };

/** A name and what to begin with; Enter makes it. */
export function NewProject({
  projects,
  making,
  fault,
  onMake,
  onClose,
}: {
  projects: readonly ProjectLine[];
  making: boolean;
  fault: string;
  onMake: (beginning: Beginning) => void;
  onClose: () => void;
}): ReactNode {
  const [name, setName] = useState('');
  const [begin, setBegin] = useState('empty');
  const typed = name.trim();
  const make = (): void => {
    if (typed === '' || making) return;
    if (begin === 'empty') onMake({ document: { format: 'oquel.project/1', name: typed, assets: [] } });
    else if (begin === 'sample') onMake({ document: sampleProject(typed) });
    else onMake({ copyOf: begin, name: typed });
  };
  return (
    <form
      className="newproject"
      aria-label="New project"
      onSubmit={(e) => {
        e.preventDefault();
        make();
      }}
      onKeyDown={(e) => e.key === 'Escape' && onClose()}
    >
      <label>
        Name{' '}
        <input
          className="line"
          // Whoever asks for a new project types its name next.
          autoFocus
          value={name}
          maxLength={LIMITS.document.name}
          placeholder="your game"
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <label>
        Start with{' '}
        <select className="line" value={begin} onChange={(e) => setBegin(e.target.value)}>
          <option value="empty">an empty project</option>
          <option value="sample">the sample: a ferry landing</option>
          {projects.length > 0 && (
            <optgroup label="a copy of">
              {projects.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </optgroup>
          )}
        </select>
      </label>
      <Button type="submit" variant="contained" disabled={typed === '' || making}>
        {making ? 'Creating ...' : 'Create'}
      </Button>
      <Button onClick={onClose}>Cancel</Button>
      {projects.some((p) => p.name === typed) && (
        <span className="soft">There is already a project with this name.</span>
      )}
      {fault !== '' && (
        <span className="fault error" role="alert">
          {fault}
        </span>
      )}
    </form>
  );
}
