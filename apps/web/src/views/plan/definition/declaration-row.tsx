import {
  mergeDeclaration,
  printDeclaration,
  type AssetIndex,
  type Declaration,
  type ProjectIndex,
} from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { ActionDetails } from './action-details.js';
import { DeclarationLine } from './declaration-line.js';
import { EventDetails } from './event-details.js';
import { PropertyDetails } from './property-details.js';
import { Ways } from './ways.js';

/** One declaration as a line; the one that is chosen also with everything that can be set of it. */
export function DeclarationRow({
  index,
  asset,
  declaration,
  isChosen,
  onChoose,
  onSet,
}: {
  index: ProjectIndex;
  asset: AssetIndex;
  declaration: Declaration;
  isChosen: boolean;
  onChoose: (chosen: boolean) => void;
  /** Null takes it away. Returns whether it was done at once. */
  onSet: (next: Declaration['value'] | null) => boolean;
}): ReactNode {
  const [typing, setTyping] = useState(false);
  const { kind, value } = declaration;
  const line = printDeclaration(declaration).slice(kind.length + 1);
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
    <li className={`declrow ${isChosen ? 'chosen' : ''}`} data-decl={value.name}>
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
          <button type="button" className="word" onClick={() => setTyping(true)}>
            Change as a line
          </button>
        </div>
      )}
    </li>
  );
}
