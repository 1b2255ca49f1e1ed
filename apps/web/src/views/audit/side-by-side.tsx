import {
  bindingWords,
  printFrom,
  printOptions,
  printTo,
  type Binding,
  type BindingRef,
  type ProjectIndex,
} from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { numberText } from '../../format.js';
import { bindingPlace } from '../../parts/places.js';
import { Cell, DataTable, Row, RowHead } from '../../parts/ui/data-table.js';

/** So many stand side by side. */
const MOST_BESIDE = 4;
/** So many more are listed below. */
const MOST_LISTED = 100;

/** Bindings beside one another, part by part; what differs from the first stands out. More than four are listed below. */
export function SideBySide({
  index,
  base,
  bindings,
}: {
  index: ProjectIndex;
  base: string;
  bindings: readonly BindingRef[];
}): ReactNode {
  const known = bindings.flatMap((ref) => {
    const binding = bindingOf(index, ref);
    return binding ? [{ ref, binding, parts: partsOf(ref.asset, binding) }] : [];
  });
  const columns = known.slice(0, MOST_BESIDE);
  const listed = known.slice(MOST_BESIDE, MOST_BESIDE + MOST_LISTED);
  const left = known.length - columns.length - listed.length;
  if (columns.length === 0) return <p className="soft">These bindings no longer exist.</p>;
  const [first] = columns;
  return (
    <>
      <DataTable
        className="sidebyside"
        heads={[
          { unseen: 'Part' },
          ...columns.map(({ ref }, i) => {
            const place = bindingPlace(index, base, ref.asset, ref.binding);
            const name = `binding ${i + 1}`;
            return {
              key: `${ref.asset}/${ref.binding}`,
              head: place ? <Link to={place.href}>{name}</Link> : name,
            };
          }),
        ]}
      >
        {first.parts.map(([name], i) => (
          <Row key={name}>
            <RowHead>{name}</RowHead>
            {columns.map(({ ref, parts }) => (
              <Cell
                key={`${ref.asset}/${ref.binding}`}
                className={parts[i][1] === first.parts[i][1] ? 'mono' : 'mono other'}
              >
                {parts[i][1]}
              </Cell>
            ))}
          </Row>
        ))}
      </DataTable>
      {listed.length > 0 && (
        <ul className="problemlist" aria-label="More bindings">
          {listed.map(({ ref, binding }) => {
            const place = bindingPlace(index, base, ref.asset, ref.binding);
            const words = `${ref.asset}: ${bindingWords(binding)}`;
            return (
              <li key={`${ref.asset}/${ref.binding}`}>
                {place ? <Link to={place.href}>{words}</Link> : words}
              </li>
            );
          })}
          {left > 0 && <li className="soft">and {numberText(left)} more</li>}
        </ul>
      )}
    </>
  );
}

/** A binding as it is now; undefined once it is gone. */
export function bindingOf(index: ProjectIndex, ref: BindingRef): Binding | undefined {
  const owner = index.assets[index.assetAt.get(ref.asset) ?? -1];
  return owner?.bindings[owner.bindingAt.get(ref.binding) ?? -1];
}

function partsOf(asset: string, binding: Binding): [string, string][] {
  return [
    ['in', asset],
    ['when', printFrom(binding)],
    ['do', printTo(binding)],
    ['how', printOptions(binding).join(', ') || 'no options'],
  ];
}
