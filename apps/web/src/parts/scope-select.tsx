import type { ProjectIndex } from '@oquel/core';
import type { ReactNode } from 'react';

/** Chooses a scene, prefab or widget, with the number of its bindings. */
export function ScopeSelect({
  index,
  value,
  onChange,
}: {
  index: ProjectIndex;
  value: string;
  onChange: (scope: string) => void;
}): ReactNode {
  return (
    <select className="line" aria-label="Scope" value={value} onChange={(e) => onChange(e.target.value)}>
      {(['scene', 'prefab', 'widget'] as const).map((kind) => (
        <optgroup key={kind} label={`${kind[0].toUpperCase()}${kind.slice(1)}s`}>
          {index.assets
            .filter((a) => a.decl.kind === kind)
            .map((a) => (
              <option key={a.decl.id} value={a.decl.id}>
                {a.decl.id} ({a.bindings.length})
              </option>
            ))}
        </optgroup>
      ))}
    </select>
  );
}
