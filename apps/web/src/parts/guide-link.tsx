import type { ReactNode } from 'react';
import { Sign } from './ui/signs.js';

/** The section of the guide's page on views that speaks of an address within a project. */
export function guideFor(path: string): string {
  const [, , , view = 'plan', below] = path.split('/');
  const section = below ?? view;
  return `/guide/views.html#${section === 'team' ? 'people' : section}`;
}
/** The page of the guide on a rule. */
export function guideOnRule(rule: string): string {
  return `/guide/rules/${rule}.html`;
}

/** Opens what the guide says of this view, beside it. */
export function GuideLink({ path }: { path: string }): ReactNode {
  return (
    <a
      className="signbutton"
      href={guideFor(path)}
      target="_blank"
      rel="noreferrer"
      title="What the guide says of this view"
      aria-label="Guide"
    >
      <Sign of="guide" />
    </a>
  );
}
