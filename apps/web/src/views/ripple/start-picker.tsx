import { Autocomplete } from '@mui/material';
import { PickerInput } from '../../parts/ui/picker-input.js';
import {
  assetAtPath,
  readLines,
  reachableFrom,
  type AssetIndex,
  type ChangeSet,
  type ProjectIndex,
  type RippleStart,
} from '@oquel/core';
import { useMemo, type ReactNode } from 'react';

interface Option {
  label: string;
  about: string;
  start: RippleStart;
  /** A line that declares it first, in an asset or in the project. */
  declares?: { in: string; line: string };
}
interface Props {
  index: ProjectIndex;
  start: RippleStart;
  onChoose: (start: RippleStart) => void;
  onEdit: (changeSet: ChangeSet) => boolean;
}
const MOST = 80;

/** Chooses where a ripple begins: an instance, an asset or a channel by typing, then one of its events or actions. */
export function StartPicker({ index, start, onChoose, onEdit }: Props): ReactNode {
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
        filterOptions={(all, { inputValue }) => {
          const own = found(all, inputValue, label);
          return own.length > 0 ? own : offers(index, all, inputValue.trim());
        }}
        onChange={(_, { start: chosen, declares }) => {
          if (!declares) return onChoose(chosen);
          const { changes } = readLines(index, declares.in, declares.line);
          const of = declares.in === '' ? '' : ` of ${declares.in}`;
          if (changes && onEdit({ label: `declared the ${declares.line}${of}`, changes })) onChoose(chosen);
        }}
        autoHighlight
        noOptionsText="No match"
        renderOption={({ key, ...props }, o) => (
          <li key={key} {...props} style={{ minHeight: 28, padding: '2px 10px', gap: 8 }}>
            <span className="mono">{o.label}</span> <span className="soft">{o.about}</span>
          </li>
        )}
        renderInput={(params) => (
          <PickerInput
            params={params}
            label="Where it begins"
            style={{ fontFamily: 'var(--mono)', fontSize: 13.5 }}
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
/** What a text that nothing is called could be declared as: a channel, or an event or action of a thing, as in `yard:lamp-1.onLit`. */
function offers(index: ProjectIndex, all: readonly Option[], text: string): Option[] {
  const channel = /^#?([A-Za-z_][\w-]*)$/.exec(text);
  if (channel) {
    const [, name] = channel;
    const declares = { in: '', line: `channel ${name}` };
    return [{ label: `#${name}`, about: 'declare this channel', start: { channel: name }, declares }];
  }
  const [, label, name] = /^(.+)\.([A-Za-z_][\w-]*)$/.exec(text) ?? [];
  const of = all.find((o) => o.label === label);
  const asset = of && assetOf(index, of.start);
  if (!of || !asset || 'channel' in of.start) return [];
  const kind = /^on[A-Z]/.test(name) ? 'event' : 'action';
  const line = `${kind} ${name}`;
  if (asset.eventAt.has(name) || asset.actionAt.has(name)) {
    return [{ label: text, about: kind, start: { ...of.start, name } }];
  }
  const declares = { in: asset.decl.id, line };
  const about = `declare this ${kind} of ${asset.decl.id}`;
  return [{ label: text, about, start: { ...of.start, name }, declares }];
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
