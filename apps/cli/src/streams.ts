/** Where a command writes to: what it prints, and what it has to say besides. */
export interface Streams {
  out: (text: string) => void;
  err: (text: string) => void;
}
