export type NeedKind = 'asset' | 'placement' | 'channel' | 'event' | 'action' | 'property';

/** Something that lines name and that is not there. */
export interface Need {
  /** `placement:plate-1`, `event:Plate/onStepped`: by which people say what they want instead. */
  key: string;
  kind: NeedKind;
  /** The asset that declares an event, an action or a property; empty for the others. */
  of: string;
  name: string;
  /** Which of the lines name it, by their numbers in what was given, from 0. */
  lines: number[];
  /** Names that are there, or come earlier, of which it could be a slip of the pen. It is made only when somebody says so. */
  near: readonly string[];
  /** Whether it is to be asked about still. */
  isOpen: boolean;
  /** The line that makes it, in the notation of declarations and placements. */
  text: string;
  /** Why a line that somebody put in the place of that one cannot be taken; null if it can. */
  fault: string | null;
}

/** What somebody wants in the place of what is offered, by the key of the need. */
export interface Wish {
  /** The name that was meant. */
  use?: string;
  /** It is made, though it looks like another name. */
  make?: true;
  /** Another line that makes it. */
  text?: string;
}
export type Wishes = ReadonlyMap<string, Wish>;

export function needKey(kind: NeedKind, name: string, of = ''): string {
  return of === '' ? `${kind}:${name}` : `${kind}:${of}/${name}`;
}
