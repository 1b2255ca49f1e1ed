import { nameFromText, type ChangeSet, type ProjectIndex } from '@oquel/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { creating } from './stage-edits.js';

/** An empty project: its first scene, named and sized where it will be. */
export function FirstScene({
  index,
  onCreate,
}: {
  index: ProjectIndex;
  onCreate: (changeSet: ChangeSet, id: string) => void;
}): ReactNode {
  const [text, setText] = useState('');
  const [width, setWidth] = useState('60');
  const [height, setHeight] = useState('40');
  const id = nameFromText(text, 'scene');
  const size: [number, number] = [Number(width), Number(height)];
  const isSized = size.every((m) => m > 0 && m <= 100_000);
  return (
    <form
      className="firstscene"
      aria-label="First scene"
      onSubmit={(e) => {
        e.preventDefault();
        if (id !== '' && isSized) onCreate(creating(index, 'scene', id, size), id);
      }}
    >
      <h1>Name the first scene</h1>
      <p className="soft">
        A scene is a place of your game, drawn to scale. Everything can be changed later.
      </p>
      <p className="soft">
        Or begin with what you have: paste lines or rows of a spreadsheet, or bring in a file, in{' '}
        <Link to="../exchange" relative="path">
          Exchange
        </Link>
        .
      </p>
      <div className="row">
        <label>
          Name{' '}
          <input
            className="line"
            autoFocus
            value={text}
            placeholder="harbour"
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <label>
          Width{' '}
          <input
            className="line"
            style={{ width: 60 }}
            inputMode="decimal"
            value={width}
            onChange={(e) => setWidth(e.target.value)}
          />{' '}
          m
        </label>
        <label>
          Depth{' '}
          <input
            className="line"
            style={{ width: 60 }}
            inputMode="decimal"
            value={height}
            onChange={(e) => setHeight(e.target.value)}
          />{' '}
          m
        </label>
        <button type="submit" className="tick" aria-pressed="true" disabled={id === '' || !isSized}>
          Create the scene
        </button>
      </div>
      <p role="status">
        {text.trim() !== '' && id === '' && (
          <span className="fault error">A name needs at least one letter from A to Z.</span>
        )}
        {id !== '' && id !== text.trim() && (
          <span className="soft">
            It will be saved as <b className="mono">{id}</b>.
          </span>
        )}
        {!isSized && <span className="fault error"> Width and depth are metres above 0.</span>}
      </p>
    </form>
  );
}
