/** Where a command writes to. Exit codes: 0 pass, 1 stopped by the gate, 2 unreadable input or wrong use, 70 an unforeseen error. */
export interface Streams {
  out: (text: string) => void;
  err: (text: string) => void;
}
