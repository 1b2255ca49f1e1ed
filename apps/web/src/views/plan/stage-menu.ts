import type { AssetIndex } from '@oquel/core';
import type { Choice, Choices } from '../../parts/ui/choices.js';
import type { Stage } from './use-stage.js';

/** Where the choices of the stage lead that are no edits. */
export interface StageWays {
  /** Wire, on a thing of the owner. */
  wire: (path: string) => void;
  /** What follows from all that the thing says. */
  ripple: (path: string) => void;
  /** A walk that begins beside the thing. */
  walk: (path: string) => void;
  place: () => void;
}

/** What can be done with what is chosen, or with the ground; a thing that was not chosen is chosen by the click. */
export function stageChoices(owner: AssetIndex, stage: Stage, path: string | null, ways: StageWays): Choices {
  const { chosen } = stage;
  const paste: Choice = { label: 'Paste', keys: 'Ctrl V', onDo: stage.pasteHere };
  if (path === null || chosen.length === 0) {
    const all = (): void => stage.setChosen(owner.placements.map((p) => p.id));
    return {
      of: owner.decl.id,
      groups: [
        [
          { label: 'Place something', keys: 'P', onDo: ways.place },
          paste,
          { label: 'Choose all', keys: 'Ctrl A', onDo: owner.placements.length > 0 ? all : undefined },
        ],
        [
          { label: `Rename ${owner.decl.id}`, onDo: stage.nameOwner },
          { label: `Duplicate ${owner.decl.id}`, onDo: stage.duplicateAsset },
        ],
        [{ label: `Remove ${owner.decl.id}`, onDo: () => stage.setDropping(true) }],
      ],
    };
  }
  const one = chosen.length === 1 ? chosen[0] : null;
  const only = (onDo: () => void): (() => void) | undefined => (one === null ? undefined : onDo);
  return {
    of: one ?? `${chosen.length} things`,
    groups: [
      [
        { label: 'Wire it', onDo: only(() => ways.wire(one!)) },
        { label: 'What follows', onDo: only(() => ways.ripple(one!)) },
        { label: 'Walk here', keys: 'T', onDo: only(() => ways.walk(one!)) },
        { label: 'Open its definition', keys: 'double click', onDo: only(() => stage.openThing(one!)) },
        { label: 'Rename', keys: 'F2', onDo: only(stage.nameIt) },
      ],
      [
        { label: 'Cut', keys: 'Ctrl X', onDo: stage.cut },
        { label: 'Copy', keys: 'Ctrl C', onDo: stage.copy },
        { label: 'Copy with everything it needs', onDo: stage.copyWhole },
        paste,
        { label: 'Duplicate', keys: 'D', onDo: () => stage.duplicate(false) },
        { label: 'Duplicate with bindings', keys: 'Shift D', onDo: () => stage.duplicate(true) },
      ],
      [
        { label: 'Rotate by 90 degrees', keys: '}', onDo: () => stage.edit(stage.rotate(90)) },
        { label: 'Remove', keys: 'Delete', onDo: stage.leave },
      ],
    ],
  };
}
