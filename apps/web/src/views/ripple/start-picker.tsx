import { Autocomplete, TextField } from '@mui/material';
import {
  assetAtPath,
  reachableFrom,
  type AssetIndex,
  type ProjectIndex,
  type RippleStart,
} from '@oquel/core';
import { useMemo, type ReactNode } from 'react';

interface Option {
  label: string;
  about: string;
  start: RippleStart;
}
interface Props {
  index: ProjectIndex;
  start: RippleStart;
  onChoose: (start: RippleStart) => void;
}
const MOST = 80;

/** Chooses where a ripple begins: an instance, an asset or a channel by typing, then one of its events or actions. */
export function StartPicker({ index, start, onChoose }: Props): ReactNode {
  const options = useMemo(() => optionsOf(index), [index]);
  const label = labelOf(start);
  const current = options.find((o) => o.label === label) ?? null;
  const asset = assetOf(index, start);
  const name = 'channel' in start ? '' : (start.name ?? '');
  return (
    <>
      <Autocomplete<Option, false, true, false>
        size="small"
        sx={{ width: 250 }}
        options={options}
        value={current ?? { label, about: 'not there', start }}
        disableClearable
        getOptionLabel={(o) => o.label}
        isOptionEqualToValue={(a, b) => a.label === b.label}
        filterOptions={(all, { inputValue }) => found(all, inputValue, label)}
        onChange={(_, chosen) => onChoose(chosen.start)}
        autoHighlight
        noOptionsText="Nothing is called that"
        renderOption={({ key, ...props }, o) => (
          <li key={key} {...props} style={{ minHeight: 28, padding: '2px 10px', gap: 8 }}>
            <span className="mono">{o.label}</span> <span className="soft">{o.about}</span>
          </li>
        )}
        renderInput={(params) => (
          <TextField
            {...params}
            slotProps={{
              ...params.slotProps,
              htmlInput: {
                ...params.slotProps.htmlInput,
                'aria-label': 'Where it begins',
                style: { fontFamily: 'var(--mono)', fontSize: 13.5 },
              },
            }}
          />
        )}
      />
      {asset && (
        <select
          className="line"
          aria-label="Event or action"
          value={name}
          onChange={(e) => {
            if ('channel' in start) return;
            const { name: _, ...rest } = start;
            onChoose(e.target.value === '' ? rest : { ...rest, name: e.target.value });
          }}
        >
          <option value="">all of it</option>
          <optgroup label="Events">
            {asset.events.map((e) => (
              <option key={e.name}>{e.name}</option>
            ))}
          </optgroup>
          <optgroup label="Actions">
            {asset.actions.map((a) => (
              <option key={a.name}>{a.name}</option>
            ))}
          </optgroup>
          {name !== '' && !asset.eventAt.has(name) && !asset.actionAt.has(name) && (
            <option value={name}>{name} (not there)</option>
          )}
        </select>
      )}
    </>
  );
}

function labelOf(start: RippleStart): string {
  if ('channel' in start) return `#${start.channel}`;
  return 'at' in start ? start.at : `every ${start.asset}`;
}
function assetOf(index: ProjectIndex, start: RippleStart): AssetIndex | null {
  if ('channel' in start) return null;
  if ('asset' in start) return index.assets[index.assetAt.get(start.asset) ?? -1] ?? null;
  const colon = start.at.indexOf(':');
  const scene = index.assets[index.assetAt.get(start.at.slice(0, Math.max(0, colon))) ?? -1];
  return scene ? assetAtPath(index, scene, start.at.slice(colon + 1)) : null;
}
function optionsOf(index: ProjectIndex): Option[] {
  const list: Option[] = [];
  for (const scene of index.assets) {
    if (scene.decl.kind !== 'scene') continue;
    for (const t of reachableFrom(index, scene)) {
      const at = `${scene.decl.id}:${t.path}`;
      list.push({ label: at, about: t.asset.decl.id, start: { at } });
    }
  }
  for (const { decl } of index.assets) {
    if (decl.kind !== 'scene') {
      list.push({ label: `every ${decl.id}`, about: decl.kind, start: { asset: decl.id } });
    }
  }
  for (const { name } of index.project.channels ?? []) {
    list.push({ label: `#${name}`, about: 'channel', start: { channel: name } });
  }
  return list;
}
function found(all: readonly Option[], text: string, label: string): Option[] {
  const words = text === label ? [] : text.toLowerCase().split(/\s+/).filter(Boolean);
  const list: Option[] = [];
  for (const o of all) {
    const hay = `${o.label} ${o.about}`.toLowerCase();
    if (words.every((w) => hay.includes(w)) && list.push(o) >= MOST) break;
  }
  return list;
}
