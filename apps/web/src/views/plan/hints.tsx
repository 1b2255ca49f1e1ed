import type { ProjectIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { hasLooked } from '../../session/looked.js';

/** The next step of a project that has only begun, where the work is; it goes away by itself. */
export function Hint({
  index,
  project,
  owner,
  onPlace,
}: {
  index: ProjectIndex;
  project: string;
  owner: string;
  onPlace: () => void;
}): ReactNode {
  const step = nextStep(index, hasLooked(project));
  if (step === null) return null;
  return (
    <div className="hint-next" role="note">
      {step === 'place' && (
        <>
          <b>Place something:</b>{' '}
          <button type="button" className="word" onClick={onPlace}>
            type the name of a prefab
          </button>{' '}
          and press Enter. One that does not exist yet is made.
        </>
      )}
      {step === 'declare' && (
        <>
          <b>Say what it does:</b> choose a thing and open its prefab, then type a line such as{' '}
          <span className="mono">onPressed</span> or <span className="mono">light: set isLit to true</span>.
        </>
      )}
      {step === 'wire' && (
        <>
          <b>Wire it:</b> go to <Link to={`/p/${project}/wire?scope=${owner}`}>Wire</Link> and type{' '}
          <span className="mono">when</span> … <span className="mono">do</span> …
        </>
      )}
      {step === 'check' && (
        <>
          <b>Check it:</b> <Link to={`/p/${project}/audit`}>Audit</Link> lists what is missing and how to fix
          it.
        </>
      )}
    </div>
  );
}

/** What is to be done next; null where a project is under way. Cost: the assets. */
export function nextStep(
  index: ProjectIndex,
  looked: boolean,
): 'place' | 'declare' | 'wire' | 'check' | null {
  if (index.assets.every((a) => a.placements.length === 0)) return 'place';
  const says = index.assets.some((a) => a.events.length > 0);
  const does = index.assets.some((a) => a.actions.length > 0);
  if (!says || !does) return 'declare';
  const bindings = index.assets.reduce((n, a) => n + a.bindings.length, 0);
  if (bindings === 0) return 'wire';
  return bindings < 5 && !looked ? 'check' : null;
}
