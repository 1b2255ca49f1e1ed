import { Popover } from '@mui/material';
import { useRef, useState, type ReactNode } from 'react';
import type { Layers } from './use-layers.js';

interface Props {
  layers: Layers;
  onLayer: (layer: keyof Layers, on: boolean) => void;
  /** Opens the panel of the backdrop; absent where there can be none. */
  onBackdrop?: () => void;
}
const NAMES: [keyof Layers, string][] = [
  ['areas', 'Sensing areas'],
  ['coverage', 'Coverage'],
  ['sleepers', 'Highlight what starts asleep'],
  ['backdrop', 'Backdrop picture'],
];

/** What is drawn over the plan, and the picture under it. */
export function LayersMenu({ layers, onLayer, onBackdrop }: Props): ReactNode {
  const button = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        className="tick"
        ref={button}
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => setOpen(true)}
      >
        Layers
      </button>
      <Popover
        open={open}
        anchorEl={button.current}
        onClose={() => setOpen(false)}
        transitionDuration={0}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { className: 'layersmenu', role: 'dialog', 'aria-label': 'Layers' } }}
      >
        {NAMES.map(([layer, text]) => (
          <label key={layer}>
            <input
              type="checkbox"
              checked={layers[layer]}
              onChange={(e) => onLayer(layer, e.target.checked)}
            />{' '}
            {text}
          </label>
        ))}
        {onBackdrop && (
          <button
            type="button"
            className="tick"
            onClick={() => {
              setOpen(false);
              onBackdrop();
            }}
          >
            Set the backdrop picture ...
          </button>
        )}
      </Popover>
    </>
  );
}
