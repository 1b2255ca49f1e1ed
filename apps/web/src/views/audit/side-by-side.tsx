import {
  printFrom,
  printOptions,
  printTo,
  type Binding,
  type BindingRef,
  type ProjectIndex,
} from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { bindingPlace } from '../../parts/places.js';

/** Bindings beside one another, part by part; what differs from the first stands out. */
export function SideBySide({
  index,
  base,
  bindings,
}: {
  index: ProjectIndex;
  base: string;
  bindings: readonly BindingRef[];
}): ReactNode {
  const columns = bindings.slice(0, 4).flatMap((ref) => {
    const owner = index.assets[index.assetAt.get(ref.asset) ?? -1];
    const binding = owner?.bindings[owner.bindingAt.get(ref.binding) ?? -1];
    return binding ? [{ ref, parts: partsOf(ref.asset, binding) }] : [];
  });
  if (columns.length === 0) return <p className="soft">These bindings no longer exist.</p>;
  const [first] = columns;
  return (
    <table className="sidebyside">
      <thead>
        <tr>
          <th scope="col">
            <span className="unseen">Part</span>
          </th>
          {columns.map(({ ref }) => {
            const place = bindingPlace(index, base, ref.asset, ref.binding);
            return (
              <th scope="col" key={`${ref.asset}/${ref.binding}`}>
                {place ? <Link to={place.href}>{ref.binding}</Link> : ref.binding}
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody>
        {first.parts.map(([name], i) => (
          <tr key={name}>
            <th scope="row">{name}</th>
            {columns.map(({ ref, parts }) => (
              <td
                key={`${ref.asset}/${ref.binding}`}
                className={parts[i][1] === first.parts[i][1] ? 'mono' : 'mono other'}
              >
                {parts[i][1]}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function partsOf(asset: string, binding: Binding): [string, string][] {
  return [
    ['in', asset],
    ['when', printFrom(binding)],
    ['do', printTo(binding)],
    ['how', printOptions(binding).join(', ') || 'no options'],
  ];
}
