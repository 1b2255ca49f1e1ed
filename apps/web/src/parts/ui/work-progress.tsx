import './work-progress.css';
import type { WorkStep } from '@oquel/core';
import type { ReactNode } from 'react';

/** Long work: what is being done, how far it is, and the way to cancel it. It appears only if the work takes a moment. */
export function WorkProgress({
  what,
  step,
  onCancel,
}: {
  /** Such as "Comparing". */
  what: string;
  /** Null while it is not known how far it is. */
  step: WorkStep | null;
  onCancel?: () => void;
}): ReactNode {
  const percent = step ? Math.floor((100 * step.done) / step.of) : null;
  return (
    <div className="workprogress" role="status">
      <span>
        {what}
        {step ? `: ${step.doing}, ${percent} %` : ' ...'}
      </span>
      {/* The browser's own: it stands in the first view, where the library's would be loaded for nothing else. */}
      <progress aria-label={what} max={100} {...(percent === null ? {} : { value: percent })} />
      {onCancel && (
        <button type="button" className="tick" onClick={onCancel}>
          Cancel
        </button>
      )}
    </div>
  );
}
