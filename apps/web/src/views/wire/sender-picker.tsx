import { Autocomplete } from '@mui/material';
import { PickerInput } from '../../parts/ui/picker-input.js';
import type { ProjectIndex, Reachable } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';

interface Option {
  at: string;
  asset: string;
  bindings: number;
  missing: boolean;
}
interface Props {
  index: ProjectIndex;
  things: readonly Reachable[];
  missing: readonly string[];
  /** Bindings of this scope by their sender. */
  counts: ReadonlyMap<string, number>;
  value: string;
  onChoose: (at: string) => void;
}

/** Chooses the sender by typing: anything of the scope that has events, a channel, or one that bindings name in vain. */
export function SenderPicker({ index, things, missing, counts, value, onChoose }: Props): ReactNode {
  const options = useMemo<Option[]>(() => {
    const count = (at: string): number => counts.get(at) ?? 0;
    return [
      ...things
        .filter((t) => t.asset.events.length > 0 || count(t.path) > 0)
        .map((t) => ({ at: t.path, asset: t.asset.decl.id, bindings: count(t.path), missing: false })),
      ...(index.project.channels ?? []).map((c) => ({
        at: `#${c.name}`,
        asset: 'channel',
        bindings: count(`#${c.name}`),
        missing: false,
      })),
      ...missing.map((at) => ({ at, asset: 'not there', bindings: count(at), missing: true })),
    ];
  }, [index, things, missing, counts]);
  const current = options.find((o) => o.at === value) ?? null;
  return (
    <Autocomplete<Option, false, false, false>
      size="small"
      fullWidth
      options={options}
      value={current}
      getOptionLabel={(o) => o.at}
      isOptionEqualToValue={(a, b) => a.at === b.at}
      filterOptions={(all, { inputValue }) => filter(all, inputValue, current?.at)}
      onChange={(_, chosen) => chosen && onChoose(chosen.at)}
      autoHighlight
      noOptionsText="No match"
      renderOption={({ key, ...props }, o) => (
        <li key={key} {...props} style={{ minHeight: 28, padding: '2px 10px', gap: 8 }}>
          <span className="mono">{o.at === '.' ? '. (itself)' : o.at}</span>
          <span className={o.missing ? 'fault error' : 'soft'}>{o.asset}</span>
          <b style={{ marginLeft: 'auto' }}>{o.bindings}</b>
        </li>
      )}
      renderInput={(params) => (
        <PickerInput
          params={params}
          label="Sender"
          placeholder="Sender: type a name, or point on the plan"
          style={{ fontFamily: 'var(--mono)', fontSize: 13.5 }}
        />
      )}
    />
  );
}

const MOST = 200;
function filter(all: Option[], text: string, current: string | undefined): Option[] {
  const words = text === current ? [] : text.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = (o: Option): boolean => words.every((w) => `${o.at} ${o.asset}`.toLowerCase().includes(w));
  return all.filter(fits).slice(0, MOST);
}
