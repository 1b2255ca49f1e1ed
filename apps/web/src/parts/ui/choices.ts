/** One thing that can be done, with the keys that do the same. */
export interface Choice {
  label: string;
  keys?: string;
  /** Absent where it cannot be done now. */
  onDo?: () => void;
}
/** What can be done with something, in groups. */
export interface Choices {
  /** What they are done with, as the name of the menu. */
  of: string;
  groups: readonly (readonly Choice[])[];
}
