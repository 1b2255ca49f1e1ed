import { Autocomplete } from '@mui/material';
import { PickerInput } from '../../parts/ui/picker-input.js';
import { nameFromText, type AssetIndex, type ProjectIndex } from '@oquel/core';
import { useMemo, useState, type ReactNode, type Ref } from 'react';

/** What is placed: a prefab or widget that is there, or one that is made with it. */
export interface Placeable {
  id: string;
  kind: 'prefab' | 'widget';
  isNew: boolean;
  tags: readonly string[];
}

interface Props {
  ref?: Ref<HTMLInputElement>;
  index: ProjectIndex;
  owner: AssetIndex;
  /** What is being placed with the pointer. */
  value: string | null;
  /** It was chosen with the pointer, which will point at its place; null ends that. */
  onChoose: (placeable: Placeable | null) => void;
  /** It was chosen by typing: it goes where there is room. */
  onPlace: (placeable: Placeable) => void;
}

/** Chooses what to place by typing: every prefab and widget but the owner itself; a name that is not there makes one. */
export function Palette({ ref, index, owner, value, onChoose, onPlace }: Props): ReactNode {
  const isWidget = owner.decl.kind === 'widget';
  const [text, setText] = useState('');
  const options = useMemo(
    () =>
      index.assets
        .filter((a) => (isWidget ? a.decl.kind === 'widget' : a.decl.kind !== 'scene') && a !== owner)
        .map(({ decl }): Placeable => ({
          id: decl.id,
          kind: decl.kind as 'prefab' | 'widget',
          isNew: false,
          tags: decl.tags ?? [],
        })),
    [index, owner, isWidget],
  );
  const made = nameFromText(text, isWidget ? 'widget' : 'prefab');
  const fresh: Placeable[] =
    made === '' || index.assetAt.has(made)
      ? []
      : isWidget
        ? [{ id: made, kind: 'widget', isNew: true, tags: [] }]
        : [
            { id: made, kind: 'prefab', isNew: true, tags: [] },
            { id: made, kind: 'widget', isNew: true, tags: [] },
          ];
  return (
    <Autocomplete<Placeable>
      size="small"
      options={[...options, ...fresh]}
      value={options.find((o) => o.id === value) ?? null}
      inputValue={text}
      onInputChange={(_, next, reason) => setText(reason === 'reset' && value === null ? '' : next)}
      getOptionLabel={(o) => o.id}
      isOptionEqualToValue={(a, b) => a.id === b.id && a.kind === b.kind && a.isNew === b.isNew}
      filterOptions={(all, { inputValue }) => {
        const words = inputValue.toLowerCase().split(/\s+/).filter(Boolean);
        const fits = ({ id, kind, tags }: Placeable): boolean => {
          const said = `${id} ${kind} ${tags.join(' ')}`.toLowerCase();
          return words.every((w) => said.includes(w));
        };
        return all.filter((o) => o.isNew || fits(o)).slice(0, 200);
      }}
      onChange={(event, chosen) => {
        if (chosen && event.type === 'keydown') {
          setText('');
          onPlace(chosen);
        } else onChoose(chosen);
      }}
      autoHighlight
      noOptionsText={isWidget ? 'Type a name to make a widget' : 'Type a name to make a prefab'}
      renderOption={({ key, ...props }, { id, kind, isNew, tags }) => (
        <li key={`${key}/${kind}/${isNew}`} {...props} style={{ minHeight: 28, padding: '2px 10px', gap: 8 }}>
          <span className="mono">{id}</span>
          <span className="soft" style={{ marginLeft: 'auto' }}>
            {isNew ? `new ${kind}` : [kind, ...tags.map((t) => `#${t}`)].join(' ')}
          </span>
        </li>
      )}
      renderInput={(params) => (
        <PickerInput
          params={params}
          label="Place"
          placeholder={isWidget ? 'Add a part: type a widget' : 'Place: type a prefab or widget'}
          inputRef={ref}
        />
      )}
    />
  );
}
