import {
  fittedBackdrop,
  MOST_PICTURE_BYTES,
  scaledBackdrop,
  type AssetIndex,
  type Backdrop,
  type ChangeSet,
  type Vec2,
} from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { pictureHref, storePicture } from '../../api/client.js';
import { BackdropPanel } from './backdrop-panel.js';

export interface BackdropControl {
  /** Of this scene, to be drawn. */
  shown: { backdrop: Backdrop; href: string } | undefined;
  open: () => void;
  panel: ReactNode;
  /** While a distance is measured: what a click on the plan does, and the points so far. */
  measuring: { onPoint: (at: Vec2) => void; points: readonly Vec2[] } | null;
}
/** A scene that says no size gets a picture of this width in metres. */
const USUAL_PLAN: Vec2 = [100, 100];

/** The picture under a scene: chosen, placed, scaled by two points and a distance, dimmed, removed. */
export function useBackdrop(
  project: string,
  owner: AssetIndex,
  edit: (changeSet: ChangeSet) => boolean,
): BackdropControl {
  const [isOpen, setOpen] = useState(false);
  const [points, setPoints] = useState<readonly Vec2[] | null>(null);
  const [fault, setFault] = useState('');
  const [isStoring, setStoring] = useState(false);
  const { id, backdrop, size } = owner.decl;
  const set = (value: Backdrop | undefined, what: string): boolean =>
    edit({
      label: `${id}: ${what}`,
      changes: [{ op: 'set', asset: id, part: 'backdrop', ...(value ? { value } : {}) }],
    });
  const take = async (file: File): Promise<void> => {
    setFault('');
    if (file.size > MOST_PICTURE_BYTES) {
      return setFault(`${file.name} is larger than ${MOST_PICTURE_BYTES / 1024 / 1024} MiB`);
    }
    setStoring(true);
    try {
      const pixels = await pixelsOf(file);
      const { name } = await storePicture(project, new Uint8Array(await file.arrayBuffer()));
      // Another picture of the same place lies where the last one lay.
      const next = backdrop
        ? { ...backdrop, picture: name }
        : fittedBackdrop(name, pixels, size ?? USUAL_PLAN);
      set(next, backdrop ? 'changed the backdrop picture' : 'set a backdrop picture');
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
    } finally {
      setStoring(false);
    }
  };
  const close = (): void => {
    setOpen(false);
    setPoints(null);
    setFault('');
  };
  return {
    shown: backdrop && { backdrop, href: pictureHref(project, backdrop.picture) },
    open: () => setOpen(true),
    measuring: points && {
      points,
      onPoint: (at) => setPoints(points.length < 2 ? [...points, at] : [at]),
    },
    panel: isOpen && (
      <BackdropPanel
        scene={id}
        backdrop={backdrop}
        href={backdrop && pictureHref(project, backdrop.picture)}
        fault={fault}
        isStoring={isStoring}
        points={points}
        onFile={(file) => void take(file)}
        onChange={(next) => set(next, 'placed the backdrop picture')}
        onRemove={() => {
          set(undefined, 'removed the backdrop picture');
          setPoints(null);
        }}
        onMeasure={(on) => setPoints(on ? [] : null)}
        onDistance={(metres) => {
          if (!backdrop || points?.length !== 2) return false;
          const next = scaledBackdrop(backdrop, points[0], points[1], metres);
          if (!next || !set(next, 'scaled the backdrop picture')) return false;
          setPoints(null);
          return true;
        }}
        onClose={close}
      />
    ),
  };
}

/** Width and height of a picture. @throws Error for what the browser cannot read */
async function pixelsOf(file: File): Promise<Vec2> {
  const url = await new Promise<string>((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error(`${file.name} cannot be read`));
    reader.readAsDataURL(file);
  });
  const image = new Image();
  image.src = url;
  try {
    await image.decode();
  } catch {
    throw new Error(`${file.name} is not a picture that can be shown: choose a PNG, JPEG, WebP or SVG file`);
  }
  // An SVG may say no size of its own.
  return [image.naturalWidth || 1000, image.naturalHeight || 1000];
}
