import './go-to.css';
import { Dialog } from '@mui/material';
import { Fragment, useState, type ReactNode } from 'react';
import { lettersOn, setLetters } from '../../session/letters.js';
import { ofPlatform } from '../ui/keys.js';

const SHORTCUTS: readonly [string, readonly (readonly [string, string])[]][] = [
  [
    'Everywhere',
    [
      ['Ctrl K', 'go to anything that has a name'],
      ['?', 'this page'],
      ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
      ['right click, Shift F10', 'all that can be done with it'],
      ['Esc', 'close what is open'],
    ],
  ],
  [
    'Plan',
    [
      ['P', 'place something by typing its name'],
      ['click, Shift click', 'choose a thing, choose one more'],
      ['Shift drag', 'choose what stands in a frame'],
      ['arrows, Shift arrows', 'move what is chosen by one step, by ten'],
      ['D or Ctrl D, with Shift', 'duplicate, with its bindings'],
      ['double click', 'open the definition of a thing'],
      ['[ ], { }', 'rotate by 15 degrees, by a quarter'],
      ['Delete', 'remove'],
      ['F2', 'rename what is chosen'],
      ['Ctrl C, X, V', 'copy, cut and paste, also into another scene or window, as lines of text'],
      ['Ctrl A', 'choose all'],
      ['wheel, + −, 0', 'zoom, show all'],
    ],
  ],
  [
    'Wire',
    [
      ['A', 'add a receiver to the active event'],
      ['Ctrl A, *', 'in the finder: choose all found, look for every one of a kind'],
      ['W', 'type a wire line; Tab completes'],
      ['Ctrl V', 'paste lines, seen first'],
      ['Enter', 'on a sentence: change it'],
      ['M, Delete, C', 'on a sentence: mute, remove, copy as a line'],
      ['I', 'on a sentence: set a condition'],
      ['Ctrl C, X, D', 'on a sentence: copy, cut, duplicate'],
      ['H', 'on a sentence that publishes to a channel: listen in a scene'],
      ['Alt ↑ ↓', 'on a sentence: run earlier, later'],
    ],
  ],
  [
    'Ripple, Audit',
    [
      ['← →', 'in a ripple: to what leads here, to what follows'],
      ['↑ ↓', 'within a hop; through the findings'],
      ['Enter', 'on an entry: what is known of it'],
    ],
  ],
  [
    'Crossings, Catalogue',
    [
      ['arrows', 'from cell to cell; through the list'],
      ['Enter', 'in a field of the catalogue: see what a change would break'],
    ],
  ],
  [
    'Rehearse',
    [
      ['Space', 'play, pause'],
      ['. ,', 'one record on, one back'],
      ['↑ ↓, Page, Home, End', 'in the log: through what happened'],
    ],
  ],
  [
    'Walk',
    [
      ['T', 'in Wire and Plan: walk here, to try it'],
      ['arrows', 'walk, while they are held down'],
      ['click', 'on the ground: walk there; on a thing: what can happen to it'],
      ['E', 'use what is at hand'],
      ['Space', 'hold time, let it go on'],
      ['. ,', 'the next thing that happens, the one before'],
    ],
  ],
  [
    'Sheet',
    [
      ['↑ ↓, Page, Home, End', 'go through the list'],
      ['Space, Shift ↑ ↓, Ctrl A', 'choose one, several, all'],
      ['Enter', 'open in Wire'],
      ['M, Delete, C', 'mute, remove, copy what is chosen'],
    ],
  ],
];

/** All keys on one page. */
export function Shortcuts({ onClose }: { onClose: () => void }): ReactNode {
  const [letters, setOn] = useState(lettersOn);
  return (
    <Dialog
      open
      onClose={onClose}
      transitionDuration={0}
      maxWidth={false}
      slotProps={{ paper: { className: 'shortcuts', 'aria-label': 'Shortcuts' } }}
    >
      <h2>Shortcuts</h2>
      <div className="pages">
        {SHORTCUTS.map(([where, keys]) => (
          <section key={where}>
            <h3>{where}</h3>
            <dl>
              {keys.map(([key, what]) => (
                <Fragment key={key}>
                  <dt>{ofPlatform(key)}</dt>
                  <dd>{what}</dd>
                </Fragment>
              ))}
            </dl>
          </section>
        ))}
      </div>
      <label>
        <input
          type="checkbox"
          checked={letters}
          onChange={(e) => {
            setLetters(e.target.checked);
            setOn(e.target.checked);
          }}
        />{' '}
        Single-letter shortcuts
      </label>{' '}
      <button type="button" className="tick" onClick={onClose}>
        Close
      </button>
    </Dialog>
  );
}
