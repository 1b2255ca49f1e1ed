import { coloured } from './colours.js';
import { writeFile } from './project-folder.js';
import { Progress } from './progress.js';

/** Where a command line is run from. */
export interface Console {
  out: (text: string) => void;
  err: (text: string) => void;
  /** What is printed there goes to a terminal that shows colours. */
  isColoured?: boolean;
  /** Somebody looks on, and may wait. */
  isWatched?: boolean;
}
/** Where a command writes to: what it prints, what it has to say besides, and what it is about to do. */
export interface Streams {
  out: (text: string) => void;
  err: (text: string) => void;
  doing: (what: string) => void;
}
export interface OutputFlags {
  output?: string;
  quiet?: boolean;
  verbose?: boolean;
}

/**
 * The streams of a command that may print into a file, and may leave out what it has to say besides. What is printed is
 * written when the command has ended well: a file that is there already stays as it is until then.
 */
export function redirected(console: Console): {
  streams: Streams;
  begin: (flags: OutputFlags) => void;
  /** @throws UsageError where the file cannot be written */
  end: () => void;
  /** However it ends: nothing is under way any more. */
  still: () => void;
} {
  const progress = new Progress();
  let flags: OutputFlags = {};
  let printed: string[] = [];
  let under: { what: string; begun: number } | null = null;
  const still = (): void => {
    progress.end();
    if (under && flags.verbose === true)
      console.err(`${under.what}: ${((performance.now() - under.begun) / 1000).toFixed(2)} s\n`);
    under = null;
  };
  return {
    streams: {
      out: (text) => {
        still();
        if (flags.output !== undefined) printed.push(text);
        else console.out(console.isColoured === true ? coloured(text) : text);
      },
      err: (text) => {
        still();
        if (flags.quiet !== true) console.err(text);
      },
      doing: (what) => {
        still();
        under = { what, begun: performance.now() };
        if (console.isWatched === true && flags.quiet !== true) progress.begin(what);
      },
    },
    begin: (given) => {
      flags = given;
      printed = [];
    },
    end: () => {
      still();
      if (flags.output !== undefined) writeFile(flags.output, printed.join(''));
    },
    still,
  };
}
