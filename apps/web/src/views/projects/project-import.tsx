import { Button } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { importDocument } from '../../api/client.js';
import { storePictures } from '../../api/pictures.js';
import { IncomingReport, storingFailed, UnfitReport } from '../../parts/incoming/incoming-report.js';
import { readFile } from '../../parts/incoming/read-file.js';
import { useWork } from '../../parts/ui/use-work.js';
import { WorkProgress } from '../../parts/ui/work-progress.js';
import type { Incoming, Unfit } from '../../workers/incoming.js';

/** Reads a document or a zip of its folder form, shows what is in it, and stores it as a new project. */
export function useProjectImport(names: ReadonlySet<string>): {
  read: (file: File) => void;
  button: ReactNode;
  report: ReactNode;
} {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState('');
  const work = useWork();
  const [came, setCame] = useState<{ incoming: Incoming } | { unfit: Unfit } | null>(null);
  const importing = useMutation({
    mutationFn: async ({ text, pictures }: Incoming) => {
      const made = await importDocument(text, work.begin().signal);
      await storePictures(made.id, pictures);
      return made;
    },
    onSuccess: async ({ id }) => {
      await queries.invalidateQueries({ queryKey: ['projects'] });
      await navigate(`/p/${id}/wire`);
    },
  });
  const reading = useMutation({
    mutationFn: async (chosen: File) => {
      setFile(chosen.name);
      setCame(null);
      importing.reset();
      const { report, signal } = work.begin();
      return readFile(chosen, signal, report);
    },
    onSuccess: (read) => setCame('problems' in read ? { unfit: read } : { incoming: read }),
  });
  const failed = reading.error ?? importing.error;
  return {
    read: (chosen) => reading.mutate(chosen),
    button: (
      <>
        <input
          ref={input}
          type="file"
          accept=".json,.zip,application/json"
          hidden
          aria-label="Project document to import"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            e.target.value = '';
            if (chosen) reading.mutate(chosen);
          }}
        />
        <Button
          variant="outlined"
          disabled={reading.isPending || importing.isPending}
          onClick={() => input.current?.click()}
        >
          Import a document
        </Button>
      </>
    ),
    report: (
      <>
        {reading.isPending && (
          <WorkProgress what={`Reading ${file}`} step={work.step} onCancel={work.cancel} />
        )}
        {importing.isPending && <WorkProgress what={`Storing ${file}`} step={null} onCancel={work.cancel} />}
        {failed && <UnfitReport file={file} unfit={storingFailed(failed)} />}
        {came && 'unfit' in came && <UnfitReport file={file} unfit={came.unfit} />}
        {came && 'incoming' in came && (
          <div className="came">
            <IncomingReport file={file} incoming={came.incoming} comparison={null}>
              <Button
                variant="contained"
                disabled={importing.isPending}
                onClick={() => importing.mutate(came.incoming)}
              >
                Save as a new project
              </Button>
              <Button onClick={() => setCame(null)}>Cancel</Button>
              {names.has(came.incoming.project.name) && (
                <span className="soft">
                  There is already a project with this name; to compare the two, open it and go to Exchange.
                </span>
              )}
            </IncomingReport>
          </div>
        )}
      </>
    ),
  };
}
