import './work-progress.css';
import type { WorkStep } from '@oquel/core';
import type { LinearProgressProps } from '@mui/material';
import type { ReactNode } from 'react';
import { later } from '../later.js';

// The first view may have none; the words stand beside it meanwhile.
const Bar = later<LinearProgressProps>(async () => (await import('@mui/material/LinearProgress')).default, {
  isUnasked: true,
});

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
      <Bar
        aria-label={what}
        {...(percent === null ? {} : { variant: 'determinate' as const, value: percent })}
      />
      {onCancel && (
        <button type="button" className="tick" onClick={onCancel}>
          Cancel
        </button>
      )}
    </div>
  );
}
