import { Autocomplete, TextField } from '@mui/material';
import type { AssetIndex, ProjectIndex } from '@oquel/core';
import { useMemo, type ReactNode } from 'react';

interface Props {
  index: ProjectIndex;
  owner: AssetIndex;
  /** What is being placed. */
  value: string | null;
  onChoose: (asset: string | null) => void;
}

/** Chooses what to place by typing: every prefab and widget but the owner itself, with its tags. */
export function Palette({ index, owner, value, onChoose }: Props): ReactNode {
  const options = useMemo(
    () => index.assets.filter((a) => a.decl.kind !== 'scene' && a !== owner),
    [index, owner],
  );
  return (
    <Autocomplete<AssetIndex>
      size="small"
      options={options}
      value={options.find((o) => o.decl.id === value) ?? null}
      getOptionLabel={(o) => o.decl.id}
      isOptionEqualToValue={(a, b) => a.decl.id === b.decl.id}
      filterOptions={(all, { inputValue }) => {
        const words = inputValue.toLowerCase().split(/\s+/).filter(Boolean);
        const text = ({ decl }: AssetIndex): string => `${decl.id} ${decl.kind} ${decl.tags?.join(' ')}`;
        return all.filter((o) => words.every((w) => text(o).toLowerCase().includes(w))).slice(0, 200);
      }}
      onChange={(_, chosen) => onChoose(chosen?.decl.id ?? null)}
      autoHighlight
      noOptionsText="No prefab or widget is called that"
      renderOption={({ key, ...props }, { decl }) => (
        <li key={key} {...props} style={{ minHeight: 28, padding: '2px 10px', gap: 8 }}>
          <span className="mono">{decl.id}</span>
          <span className="soft" style={{ marginLeft: 'auto' }}>
            {[decl.kind, ...(decl.tags ?? []).map((t) => `#${t}`)].join(' ')}
          </span>
        </li>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          placeholder="Place: type a prefab or widget"
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps.htmlInput, 'aria-label': 'Place' },
          }}
        />
      )}
    />
  );
}
