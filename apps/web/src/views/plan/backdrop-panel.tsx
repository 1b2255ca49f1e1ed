import type { Backdrop, Vec2 } from '@oquel/core';
import { useRef, useState, type ReactNode } from 'react';
import { USUAL_DIM } from '../../parts/plan/backdrop.js';
import { Entry, type Read } from '../../parts/ui/entry.js';

interface Props {
  scene: string;
  backdrop: Backdrop | undefined;
  href: string | undefined;
  fault: string;
  isStoring: boolean;
  /** Points that were clicked for a known distance; null while none is measured. */
  points: readonly Vec2[] | null;
  onFile: (file: File) => void;
  onChange: (next: Backdrop) => void;
  onRemove: () => void;
  onMeasure: (on: boolean) => void;
  /** False where it cannot be scaled so. */
  onDistance: (metres: number) => boolean;
  onClose: () => void;
}

/** The picture under a scene: its file, its place in metres, its scale by a known distance, and how much it is dimmed. */
export function BackdropPanel(props: Props): ReactNode {
  const { scene, backdrop, href, fault, isStoring, points, onFile, onChange, onRemove, onMeasure } = props;
  const input = useRef<HTMLInputElement>(null);
  const [missing, setMissing] = useState('');
  return (
    <section
      className="removal backdroppanel"
      role="dialog"
      aria-label={`Backdrop of ${scene}`}
      onKeyDown={(e) => e.key === 'Escape' && props.onClose()}
    >
      <h2>Backdrop of {scene}</h2>
      <input
        ref={input}
        type="file"
        hidden
        accept="image/png,image/jpeg,image/webp,image/svg+xml"
        aria-label="Picture of the backdrop"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) onFile(file);
        }}
      />
      {href !== undefined && <img src={href} alt="" hidden onError={() => setMissing(href)} />}
      <div className="row">
        <button
          type="button"
          className="tick"
          autoFocus
          disabled={isStoring}
          onClick={() => input.current?.click()}
        >
          {isStoring
            ? 'Storing the picture ...'
            : backdrop
              ? 'Change the picture ...'
              : 'Choose a picture ...'}
        </button>
        {backdrop && (
          <button type="button" className="tick" onClick={onRemove}>
            Remove
          </button>
        )}
        <span className="grow" />
        <button type="button" className="tick" onClick={props.onClose}>
          Close
        </button>
      </div>
      {!backdrop && (
        <p className="soft">PNG, JPEG, WebP or SVG, up to 8 MiB. It is fitted to the plan; then scale it.</p>
      )}
      {fault !== '' && (
        <p role="alert" className="fault error">
          {fault}
        </p>
      )}
      {href !== undefined && missing === href && (
        <p role="alert" className="fault warning">
          The picture is not stored with this project. Choose its file again.
        </p>
      )}
      {backdrop && (
        <>
          <Place backdrop={backdrop} onChange={onChange} />
          <div className="row">
            <button
              type="button"
              className="tick"
              aria-pressed={points !== null}
              onClick={() => onMeasure(points === null)}
            >
              Scale by two points
            </button>
            {points !== null && points.length < 2 && (
              <span role="status">
                Click {points.length === 0 ? 'the first of two points' : 'the second point'} whose distance
                you know.
              </span>
            )}
            {points?.length === 2 && (
              <Entry
                label="Metres between the points"
                value=""
                unit="m"
                width={70}
                read={(text) => metres(text, 0)}
                onTake={(n) => void props.onDistance(n)}
              />
            )}
          </div>
        </>
      )}
    </section>
  );
}

function Place({
  backdrop,
  onChange,
}: {
  backdrop: Backdrop;
  onChange: (next: Backdrop) => void;
}): ReactNode {
  const { at, size, dim = USUAL_DIM } = backdrop;
  const number = (label: string, value: number, least: number, put: (n: number) => Backdrop): ReactNode => (
    <Entry
      key={label}
      label={`${label} of the backdrop`}
      shown={label}
      value={String(value)}
      width={64}
      read={(text) => metres(text, least)}
      onTake={(n) => onChange(put(n))}
    />
  );
  return (
    <div className="row">
      {number('Left', at[0], -Infinity, (n) => ({ ...backdrop, at: [n, at[1]] }))}
      {number('Top', at[1], -Infinity, (n) => ({ ...backdrop, at: [at[0], n] }))}
      {/* It keeps its proportions. */}
      {number('Width', size[0], 0, (n) => ({
        ...backdrop,
        size: [n, Math.round((size[1] * n * 100) / size[0]) / 100],
      }))}
      <span className="soft">× {size[1]} m</span>
      <label>
        Dimmed{' '}
        <input
          type="range"
          aria-label="How much the backdrop is dimmed"
          min={0}
          max={90}
          step={10}
          defaultValue={Math.round(dim * 100)}
          onPointerUp={(e) => onChange({ ...backdrop, dim: Number(e.currentTarget.value) / 100 })}
          onKeyUp={(e) => onChange({ ...backdrop, dim: Number(e.currentTarget.value) / 100 })}
        />
      </label>
    </div>
  );
}

function metres(text: string, least: number): Read<number> {
  const n = text.trim() === '' ? NaN : Number(text);
  return n > least && Number.isFinite(n)
    ? { value: n }
    : { error: `expected metres${least === 0 ? ' above 0' : ''}` };
}
