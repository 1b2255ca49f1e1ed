import type { Finding } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { Fixes } from './fixes.js';

/** A finding where it is: what is wrong, the way to its page, and its fixes at hand. */
export function FaultLine({
  finding: { fingerprint, message, severity },
  more = '',
  href,
  mark,
}: {
  finding: Finding;
  more?: string;
  href: string;
  mark?: ReactNode;
}): ReactNode {
  const [open, setOpen] = useState(false);
  return (
    <div className={`fault ${severity}`} data-finding={fingerprint}>
      {mark} {message}
      {more}. <Link to={`${href}?finding=${fingerprint}`}>Show</Link>{' '}
      <button type="button" className="word" aria-expanded={open} onClick={() => setOpen(!open)}>
        Fix
      </button>
      {open && <Fixes fingerprint={fingerprint} />}
    </div>
  );
}
