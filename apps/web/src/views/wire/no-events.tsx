import type { AssetIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';

/** In place of strips: a sender without events, or one that is not there. */
export function NoEvents({
  owner,
  at,
  asset,
  base,
}: {
  owner: AssetIndex;
  at: string;
  asset: AssetIndex | null;
  base: string;
}): ReactNode {
  return (
    <div className="middle" style={{ height: 160 }}>
      {asset ? (
        <>
          <p>{asset.decl.id} has no events.</p>
          <p>
            <Link className="tick" to={`${base}/plan?scope=${asset.decl.id}`}>
              Declare what {asset.decl.id} says
            </Link>
          </p>
        </>
      ) : (
        <>
          <p>
            {at} is not in {owner.decl.id}.
          </p>
          <p>
            <Link className="tick" to={`${base}/plan?scope=${owner.decl.id}`}>
              Go to the plan of {owner.decl.id}
            </Link>
          </p>
        </>
      )}
    </div>
  );
}
