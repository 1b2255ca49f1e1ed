import { Popover } from '@mui/material';
import type { ReactNode } from 'react';
import { useColorMode, THEMES } from './color-mode.js';
import { iAm } from '../session/who.js';

interface Props {
  anchor: HTMLElement;
  name: string;
  onName: (name: string) => void;
  onShortcuts: () => void;
  onClose: () => void;
}
const THEME_NAME = { system: 'System', light: 'Light', dark: 'Dark' } as const;

/** Who works here, how it looks, and the keys. */
export function PersonMenu({ anchor, name, onName, onShortcuts, onClose }: Props): ReactNode {
  const { theme, setTheme } = useColorMode();
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
      transitionDuration={0}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      transformOrigin={{ vertical: 'top', horizontal: 'right' }}
      slotProps={{ paper: { className: 'personmenu', role: 'dialog', 'aria-label': 'You' } }}
    >
      <label>
        Your name in the history
        <input
          className="line"
          aria-label="Your name in the history"
          autoFocus
          value={name}
          maxLength={100}
          onChange={(e) => {
            onName(e.target.value);
            iAm(e.target.value);
          }}
          onKeyDown={(e) => {
            if (e.key !== 'Enter') return;
            // The focus goes back to the button, which this Enter must not press again.
            e.preventDefault();
            onClose();
          }}
        />
      </label>
      <fieldset>
        <legend>Theme</legend>
        {THEMES.map((t) => (
          <label key={t}>
            <input type="radio" name="theme" checked={theme === t} onChange={() => setTheme(t)} />{' '}
            {THEME_NAME[t]}
          </label>
        ))}
      </fieldset>
      <button
        type="button"
        className="tick"
        onClick={() => {
          onClose();
          onShortcuts();
        }}
      >
        Keyboard shortcuts <kbd>?</kbd>
      </button>
    </Popover>
  );
}
