import { parse, printParseErrorCode, type ParseError } from 'jsonc-parser';
import { project as projectShape } from './document.js';
import { BrokenDocument, type Problem } from './problem.js';
import { Reading } from './shape.js';
import type { Project } from './types.js';

export interface ReadResult {
  project: Project;
  /** JSON pointers of properties that the format does not know. They are kept. */
  unknown: string[];
}

/**
 * Reads a project document from its text.
 * @throws BrokenDocument with the line and column of a syntax error, or with every place (up to a bound) where the
 * document does not have the shape of `oquel.project/1`. Linear in the length of the text.
 */
export function readProjectText(text: string): ReadResult {
  return readProject(parseJson(text));
}

/**
 * Checks a parsed document. The value itself is returned, not a copy, so that what is unknown to the format is kept.
 * @throws BrokenDocument
 */
export function readProject(value: unknown): ReadResult {
  const reading = new Reading();
  projectShape.check(value, reading);
  if (reading.problems.length > 0) throw new BrokenDocument(reading.problems);
  return { project: value as Project, unknown: reading.unknown };
}

function parseJson(text: string): unknown {
  const bare = text.startsWith('\uFEFF') ? text.slice(1) : text;
  try {
    return JSON.parse(bare) as unknown;
  } catch {
    throw new BrokenDocument([syntaxProblem(bare)]);
  }
}

/** The platform's parser does not always say where it stopped, so a second, tolerant one looks for the place. */
function syntaxProblem(text: string): Problem {
  const errors: ParseError[] = [];
  try {
    parse(text, errors, { disallowComments: true, allowTrailingComma: false, allowEmptyContent: false });
  } catch {
    return {
      pointer: '',
      expected: 'JSON that is not nested thousands of levels deep',
      found: 'deeper nesting',
    };
  }
  const offset = errors[0]?.offset ?? text.length;
  const before = text.slice(0, offset).split('\n');
  const line = before.length;
  const column = (before.at(-1) ?? '').length + 1;
  const code = errors[0] ? printParseErrorCode(errors[0].error) : 'InvalidSymbol';
  const snippet = text.slice(offset, offset + 20).split('\n')[0];
  const seen = snippet === '' ? 'the end of the text' : JSON.stringify(snippet);
  return {
    pointer: '',
    expected: `JSON (${SYNTAX[code] ?? 'a value, a name, a comma or a bracket'})`,
    found: `${seen} in line ${line}, column ${column}`,
  };
}

const SYNTAX: Record<string, string> = {
  PropertyNameExpected: 'a property name in double quotes',
  ValueExpected: 'a value',
  ColonExpected: 'a colon',
  CommaExpected: 'a comma',
  CloseBraceExpected: 'a closing }',
  CloseBracketExpected: 'a closing ]',
  EndOfFileExpected: 'nothing more after the document',
  UnexpectedEndOfString: 'a closing quote',
  InvalidEscapeCharacter: 'a known escape such as \\n or \\u0041',
  InvalidCharacter: 'no control characters inside a text',
  InvalidCommentToken: 'no comments',
  UnexpectedEndOfComment: 'no comments',
  InvalidNumberFormat: 'a number',
};
