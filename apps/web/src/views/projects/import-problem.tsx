import type { ReactNode } from 'react';
import { ApiProblem } from '../../api/client.js';

/** Why a document was not imported: every place where it is broken. */
export function ImportProblem({ error, file }: { error: Error; file: string }): ReactNode {
  const problems = error instanceof ApiProblem ? (error.body.problems ?? []) : [];
  return (
    <div className="notice" role="alert">
      <b>{file || 'The document'} was not imported; nothing is stored.</b>
      {problems.length === 0 ? (
        <div>{error.message}</div>
      ) : (
        <ul className="problemlist">
          {problems.map((p, i) => (
            <li key={i}>
              {p.pointer !== '' && <span className="mono">{p.pointer}: </span>}
              expected {p.expected}, found {p.found}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
