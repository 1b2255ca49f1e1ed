import { readBaseline, type Finding, type FindingChange } from '@oquel/core';
import { useRef, useState, type ReactNode } from 'react';
import { countText } from '../../parts/ui/severity-mark.js';

/** An earlier audit to compare with. */
export interface Baseline {
  name: string;
  findings: readonly Finding[];
}

/** Shows only what is new since an earlier audit, which is chosen as the file that was saved of it. */
export function Since({
  baseline,
  since,
  onChange,
}: {
  baseline: Baseline | null;
  since: FindingChange | null;
  onChange: (baseline: Baseline | null) => void;
}): ReactNode {
  const input = useRef<HTMLInputElement>(null);
  const [fault, setFault] = useState('');
  const read = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    try {
      const { findings } = readBaseline(await file.text());
      setFault('');
      onChange({ name: file.name, findings });
    } catch (error) {
      setFault(`${file.name} is no audit: ${error instanceof Error ? error.message : String(error)}`);
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
          <button type="button" className="word" onClick={() => onChange(null)}>
            Show all
          </button>
        </span>
      ) : (
        <button type="button" className="word" onClick={() => input.current?.click()}>
          New since ...
        </button>
      )}
      {fault !== '' && (
        <span className="fault error" role="alert">
          {fault}
        </span>
      )}
    </>
  );
}
