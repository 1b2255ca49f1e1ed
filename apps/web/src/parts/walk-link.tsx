import type { AssetIndex } from '@oquel/core';
import { useEffect, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { lettersOn } from '../session/letters.js';
import { NOT_OF_THE_VIEW } from './ui/keys.js';

/** The address of a walk in a scene, which begins beside a thing of it; in a prefab or widget, in the project's first scene. */
export function walkHref(base: string, owner: AssetIndex, at: string): string {
  if (owner.decl.kind !== 'scene') return `${base}/rehearse/walk`;
  const query = new URLSearchParams({ scene: owner.decl.id });
  if (at !== '' && at !== '.' && !at.startsWith('#')) query.set('at', at);
  return `${base}/rehearse/walk?${query.toString()}`;
}

/** Leads to a walk that begins here; T does so too. */
export function WalkLink({ href }: { href: string }): ReactNode {
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.ctrlKey || e.metaKey || e.altKey || e.key.toLowerCase() !== 't' || !lettersOn()) return;
      if (e.target instanceof HTMLElement && e.target.closest(NOT_OF_THE_VIEW)) return;
      e.preventDefault();
      void navigate(href);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [navigate, href]);
  return (
    <Link to={href} title="Try it: walk here (T)" aria-keyshortcuts="T">
      Walk here
    </Link>
  );
}
