import type { ArgScope, AssetIndex, BindingFrom, ProjectIndex } from '@oquel/core';
import type { Candidate } from './candidates.js';
import type { CheckedDraft } from './draft.js';

/** What the finder and its parts are given. */
export interface FinderProps {
  index: ProjectIndex;
  owner: AssetIndex;
  from: BindingFrom;
  title: string;
  scope: ArgScope;
  all: readonly Candidate[];
  picked: readonly string[];
  onPick: (path: string) => void;
  /** What the list shows now, so that the plan can light it; null while nothing narrows it. */
  onFound: (paths: readonly string[] | null) => void;
  /** What a selection that is being put together takes now. */
  onTaken: (paths: readonly string[] | null) => void;
  onWire: (action: string, draft: CheckedDraft) => void;
  /** An action that the chosen receivers lack, as a line; says what is wrong with it, or null. */
  onDeclare: (text: string) => string | null;
  /** A receiver that is not there yet, by its name. */
  onNew: (name: string) => void;
  onClose: () => void;
}
