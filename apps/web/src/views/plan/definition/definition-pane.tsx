import './definition.css';
import type {
  AssetIndex,
  Change,
  ChangeSet,
  Declaration,
  DeclarationKind,
  Finding,
  ProjectIndex,
} from '@oquel/core';
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import type { LineInputHandle } from '../../../parts/ui/line-input.js';
import { AssetDetails } from './asset-details.js';
import { arranging, declarationsOf, redeclaring, type Redeclaration } from './declaration-edits.js';
import { DeclarationLine } from './declaration-line.js';
import { DeclarationRow, type Arranging } from './declaration-row.js';

const GROUPS: [DeclarationKind, string, string][] = [
  ['event', 'Events', 'Nothing yet. Type a name such as onOpened above.'],
  ['action', 'Actions', 'None yet. Type a name such as open above, and after a colon what it does.'],
  ['property', 'Properties', 'None yet. Type a name and a value such as isOpen = false above.'],
];

interface Props {
  index: ProjectIndex;
  findings: readonly Finding[];
  asset: AssetIndex;
  onEdit: (changeSet: ChangeSet) => boolean;
  /** A change that concerns what uses the declaration: it is shown first. */
  onAsk: (redeclaration: Redeclaration) => void;
  onRename: (to: string) => void;
  onDuplicate: () => void;
  onDrop: () => void;
}

/** What a scene, prefab or widget says, does and has, a line each, and what it is itself. */
export function DefinitionPane(props: Props): ReactNode {
  const { index, findings, asset, onEdit, onAsk } = props;
  const [chosen, setChosen] = useState<string | null>(null);
  const line = useRef<LineInputHandle>(null);
  // Whoever opens what declares nothing yet has come to declare.
  const isBlank = useRef(asset.decl.kind !== 'scene' && declarationsOf(asset).length === 0);
  useEffect(() => {
    if (isBlank.current) line.current?.enter();
  }, []);
  const list = useRef<HTMLDivElement>(null);
  const all = declarationsOf(asset);
  const set = (kind: DeclarationKind, name: string, next: Declaration['value'] | null): boolean => {
    const redeclaration = redeclaring(index, findings, asset, { kind, name }, next);
    const { uses, isAsked, changeSet } = redeclaration;
    if (isAsked && uses.bindings.length + uses.placements.length + uses.rehearsals.length > 0) {
      onAsk(redeclaration);
      return false;
    }
    if (next === null) focusNeighbour(list.current, name);
    return onEdit(changeSet);
  };
  const arrange = (kind: DeclarationKind, name: string, how: Arranging): void => {
    const arranged = arranging(index, asset, kind, name, how);
    if (arranged.isAsked) onAsk(arranged);
    else if (arranged.changeSet.changes.length > 0) onEdit(arranged.changeSet);
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.altKey) return;
    if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
    if (!(e.target instanceof HTMLElement) || !e.target.matches('.declline')) return;
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('.declline') ?? [])];
    const next = rows[rows.indexOf(e.target) + (e.key === 'ArrowDown' ? 1 : -1)];
    if (!next) return;
    e.preventDefault();
    e.stopPropagation();
    next.focus();
  };
  return (
    <div className="definition" ref={list} onKeyDown={onKeyDown}>
      <AssetDetails
        index={index}
        asset={asset}
        onSet={(part, value) =>
          onEdit({
            label: `${asset.decl.id}: changed ${part}`,
            changes: [
              { op: 'set', asset: asset.decl.id, part, ...(value === undefined ? {} : { value }) } as Change,
            ],
          })
        }
        onRename={props.onRename}
        onDuplicate={props.onDuplicate}
        onDrop={props.onDrop}
      />
      <div className="adding down">
        <DeclarationLine
          ref={line}
          index={index}
          asset={asset}
          label="Add"
          old={null}
          onTake={({ kind, value }) => {
            const done = set(kind, value.name, value);
            if (done) line.current?.enter();
            return done;
          }}
        />
      </div>
      {GROUPS.map(([kind, title, none]) => {
        const rows = all.filter((d) => d.kind === kind);
        return (
          <section key={kind} aria-label={title}>
            <h2>
              {title} <span className="soft">{rows.length}</span>
            </h2>
            {rows.length === 0 && <p className="soft none">{none}</p>}
            <ul>
              {rows.map((d) => {
                const key = `${kind}/${d.value.name}`;
                return (
                  <DeclarationRow
                    key={key}
                    index={index}
                    asset={asset}
                    declaration={d}
                    isChosen={chosen === key}
                    onChoose={(on) => setChosen(on ? key : null)}
                    onSet={(next) => set(kind, d.value.name, next)}
                    onArrange={(how) => arrange(kind, d.value.name, how)}
                  />
                );
              })}
            </ul>
          </section>
        );
      })}
    </div>
  );
}

/** When a row goes, the one after it has the focus, or the one before it. */
function focusNeighbour(list: HTMLElement | null, name: string): void {
  const rows = [...(list?.querySelectorAll<HTMLElement>('.declrow') ?? [])];
  const at = rows.findIndex((row) => row.dataset.decl === name);
  const next = (rows[at + 1] ?? rows[at - 1])?.dataset.decl;
  if (next === undefined) return;
  requestAnimationFrame(() =>
    list?.querySelector<HTMLElement>(`.declrow[data-decl="${CSS.escape(next)}"] .declline`)?.focus(),
  );
}
