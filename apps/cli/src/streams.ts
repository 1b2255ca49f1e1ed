import { writeFile } from './project-folder.js';

/** Where a command writes to: what it prints, and what it has to say besides. */
export interface Streams {
  out: (text: string) => void;
  err: (text: string) => void;
}
export interface OutputFlags {
  output?: string;
  quiet?: boolean;
}

/**
 * The streams of a command that may print into a file, and may leave out what it has to say besides. What is printed is
 * written when the command has ended well: a file that is there already stays as it is until then.
 */
export function redirected(console: Streams): {
  streams: Streams;
  begin: (flags: OutputFlags) => void;
  /** @throws UsageError where the file cannot be written */
  end: () => void;
} {
  let flags: OutputFlags = {};
  let printed: string[] = [];
  return {
    streams: {
      out: (text) => (flags.output === undefined ? console.out(text) : void printed.push(text)),
      err: (text) => {
        if (flags.quiet !== true) console.err(text);
      },
    },
    begin: (given) => {
      flags = given;
      printed = [];
    },
    end: () => {
      if (flags.output !== undefined) writeFile(flags.output, printed.join(''));
    },
  };
}
