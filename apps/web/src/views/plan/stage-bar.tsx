import { freePlace, type AssetIndex } from '@oquel/core';
import type { ReactNode } from 'react';
import { PictureMenu } from '../../parts/picture/picture-menu.js';
import { ScopeSelect } from '../../parts/scope-select.js';
import { WalkLink, walkHref } from '../../parts/walk-link.js';
import { LayersMenu } from './layers-menu.js';
import { NewAsset } from './new-asset.js';
import { Palette } from './palette.js';
import type { BackdropControl } from './use-backdrop.js';
import type { Stage } from './use-stage.js';

/** Metres between the places at which things come to stand; 0 for any. */
const SNAPS = [0, 0.1, 0.5, 1, 5];

/** Above the plan: whose it is, what is placed next, and what is shown of it. */
export function StageBar({
  owner,
  stage,
  backdrop,
}: {
  owner: AssetIndex;
  stage: Stage;
  backdrop: BackdropControl;
}): ReactNode {
  const { project, index, asset, setAsset, snap, setSnap, isScene, palette, chosen, edit, place, go } = stage;
  return (
    <div className="stagebar">
      <h1 className="unseen">Plan of {owner.decl.id}</h1>
      <ScopeSelect index={index} value={owner.decl.id} onChange={(scope) => go({ scope })} />
      <NewAsset
        index={index}
        onCreate={(changeSet, id) => {
          if (edit(changeSet)) go({ scope: id });
        }}
      />
      <div className="palette">
        <Palette
          ref={palette}
          index={index}
          owner={owner}
          value={asset?.id ?? null}
          onChoose={setAsset}
          onPlace={(placeable) => place(placeable, freePlace(owner))}
        />
      </div>
      {asset !== null && (
        <span>
          Click where <b>{asset.id}</b> goes; <kbd>Esc</kbd> ends
        </span>
      )}
      <label>
        Snap{' '}
        <select className="line" value={snap} onChange={(e) => setSnap(Number(e.target.value))}>
          {SNAPS.map((s) => (
            <option key={s} value={s}>
              {s === 0 ? 'off' : `${s} m`}
            </option>
          ))}
        </select>
      </label>
      <label>
        Wiring{' '}
        <select
          className="line"
          value={stage.wiring}
          onChange={(e) => stage.setWiring(e.target.value as typeof stage.wiring)}
        >
          <option value="chosen">selected</option>
          <option value="all">all</option>
          <option value="none">off</option>
        </select>
      </label>
      <LayersMenu
        layers={stage.layers}
        onLayer={stage.setLayer}
        onBackdrop={isScene ? backdrop.open : undefined}
      />
      <PictureMenu
        title={`Plan of ${owner.decl.id}`}
        drawing={() => document.querySelector<SVGSVGElement>('.stage .plan-pane > .pushed > svg')}
      />
      <span className="grow" />
      <WalkLink href={walkHref(`/p/${project}`, owner, chosen.length === 1 ? chosen[0] : '')} />
    </div>
  );
}
