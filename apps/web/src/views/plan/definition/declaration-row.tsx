import {
  mergeDeclaration,
  printDeclaration,
  type AssetIndex,
  type Declaration,
  type ProjectIndex,
} from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { useContextMenu } from '../../../parts/ui/context-menu.js';
import { ActionDetails } from './action-details.js';
import { DeclarationLine } from './declaration-line.js';
import { EventDetails } from './event-details.js';
import { PropertyDetails } from './property-details.js';
import { Ways } from './ways.js';

/** Another place in the list, a copy, all its uses given to another one, or another asset to belong to. */
export type Arranging = { by: -1 | 1 } | 'copy' | { into: string } | { to: string };

/** Choices of one menu that are listed one by one; the details have all. */
const FEW = 6;

/** Others of its kind that could take its uses, and assets that have none of that name. */
function arrangements(
  index: ProjectIndex,
  asset: AssetIndex,
  { kind, value }: Declaration,
): { into: string[]; to: string[] } {
  const of = (a: AssetIndex): readonly { name: string }[] =>
    kind === 'event' ? a.events : kind === 'action' ? a.actions : a.properties;
  return {
    into: of(asset).flatMap((d) => (d.name === value.name ? [] : [d.name])),
    to: index.assets.flatMap((a) =>
      a === asset || of(a).some((d) => d.name === value.name) ? [] : [a.decl.id],
    ),
  };
}
/** A list that does something as soon as something is chosen. */
function Choose({
  label,
  text,
  options,
  onChoose,
}: {
  label: string;
  text: string;
  options: readonly string[];
  onChoose: (option: string) => void;
}): ReactNode {
  if (options.length === 0) return null;
  return (
    <select
      className="line"
      aria-label={label}
      value=""
      onChange={(e) => e.target.value !== '' && onChoose(e.target.value)}
    >
      <option value="">{text}</option>
      {options.map((o) => (
        <option key={o}>{o}</option>
      ))}
    </select>
  );
}

/** One declaration as a line; the one that is chosen also with everything that can be set of it. */
export function DeclarationRow({
  index,
  asset,
  declaration,
  isChosen,
  onChoose,
  onSet,
  onArrange,
}: {
  index: ProjectIndex;
  asset: AssetIndex;
  declaration: Declaration;
  isChosen: boolean;
  onChoose: (chosen: boolean) => void;
  /** Null takes it away. Returns whether it was done at once. */
  onSet: (next: Declaration['value'] | null) => boolean;
  onArrange: (how: Arranging) => void;
}): ReactNode {
  const [typing, setTyping] = useState(false);
  const { kind, value } = declaration;
  const line = printDeclaration(declaration).slice(kind.length + 1);
  const ways = arrangements(index, asset, declaration);
  const { onContextMenu, menu } = useContextMenu(
    () => value.name,
    () => ({
      of: value.name,
      groups: [
        [{ label: 'Change as a line', keys: 'F2', onDo: () => setTyping(true) }],
        [
          { label: 'Move up', keys: 'Alt ↑', onDo: () => onArrange({ by: -1 }) },
          { label: 'Move down', keys: 'Alt ↓', onDo: () => onArrange({ by: 1 }) },
          { label: 'Duplicate', keys: 'Ctrl D', onDo: () => onArrange('copy') },
        ],
        ways.into.slice(0, FEW).map((into) => ({
          label: `Merge into ${into}`,
          onDo: () => onArrange({ into }),
        })),
        [{ label: 'Remove', keys: 'Delete', onDo: () => onSet(null) }],
      ],
    }),
  );
  if (typing) {
    return (
      <li className="declrow typing" data-decl={value.name}>
        <DeclarationLine
          index={index}
          asset={asset}
          label={kind}
          text={line}
          old={declaration}
          onTake={(next) => {
            setTyping(false);
            // A line that became something of another kind would be another declaration.
            return next.kind === kind && onSet(mergeDeclaration(declaration, next).value);
          }}
          onLeave={() => setTyping(false)}
        />
      </li>
    );
  }
  return (
    <li
      onContextMenu={onContextMenu}
      className={`declrow ${isChosen ? 'chosen' : ''}`}
      data-decl={value.name}
    >
      {menu}
      <button
        type="button"
        className="plain declline mono"
        aria-expanded={isChosen}
        title="Enter or F2: change the line; Delete: remove"
        onClick={() => onChoose(!isChosen)}
        onDoubleClick={() => setTyping(true)}
        onKeyDown={(e) => {
          if (e.key === 'F2') setTyping(true);
          else if (e.key === 'Delete') onSet(null);
          else if (e.altKey && e.key === 'ArrowUp') onArrange({ by: -1 });
          else if (e.altKey && e.key === 'ArrowDown') onArrange({ by: 1 });
          else if ((e.ctrlKey || e.metaKey) && e.key === 'd') onArrange('copy');
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      >
        <b>{value.name}</b>
        {line.slice(value.name.length)}
      </button>
      {isChosen && (
        <div className="decldetails">
          <Ways asset={asset} declaration={declaration} />
          {declaration.kind === 'event' && (
            <EventDetails
              asset={asset}
              event={declaration.value}
              peers={(index.project.peers ?? []).length > 0}
              onSet={onSet}
            />
          )}
          {declaration.kind === 'action' && (
            <ActionDetails asset={asset} action={declaration.value} onSet={onSet} />
          )}
          {declaration.kind === 'property' && (
            <PropertyDetails index={index} asset={asset} property={declaration.value} onSet={onSet} />
          )}
          <div className="row">
            <button type="button" className="word" onClick={() => setTyping(true)}>
              Change as a line
            </button>
            <button type="button" className="word" onClick={() => onArrange('copy')}>
              Duplicate
            </button>
            <Choose
              label="Merge it into"
              text="merge into …"
              options={ways.into}
              onChoose={(into) => onArrange({ into })}
            />
            <Choose
              label="Move it to"
              text="move to …"
              options={ways.to}
              onChoose={(to) => onArrange({ to })}
            />
          </div>
        </div>
      )}
    </li>
  );
}
