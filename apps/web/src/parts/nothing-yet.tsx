import type { ReactNode } from 'react';
import { Link } from 'react-router';

/** A view of a project in which there is nothing yet: why it is empty, and where to begin. */
export function NothingYet({ base, what }: { base: string; what: string }): ReactNode {
  return (
    <div className="middle">
      <h1 className="unseen">Nothing yet</h1>
      <p>{what}</p>
      <p>
        <Link className="tick" to={`${base}/plan`}>
          Go to Plan to make the first scene
        </Link>
      </p>
    </div>
  );
}
