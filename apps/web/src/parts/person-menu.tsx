import { Popover } from '@mui/material';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useSessionState } from '../session/session-context.js';
import { signedHere } from '../session/signed.js';
import { iAm } from '../session/who.js';
import { useColorMode, THEMES } from './color-mode.js';
import { SignOut } from './team/page.js';

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
  const { team } = signedHere();
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
      {team ? <Signed onClose={onClose} /> : <OwnName name={name} onName={onName} onClose={onClose} />}
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

/** Where nobody signs in everybody says who they are. */
function OwnName({ name, onName, onClose }: Pick<Props, 'name' | 'onName' | 'onClose'>): ReactNode {
  return (
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
  );
}

/** Who has signed in, and where their account, the project's people and the server's are. */
function Signed({ onClose }: Pick<Props, 'onClose'>): ReactNode {
  const { id, access } = useSessionState();
  const { account } = signedHere();
  return (
    <nav className="signed" aria-label="You and the team" onClick={onClose}>
      <b>{account?.name}</b>
      {access && <span className="soft">{access.role} of this project</span>}
      <Link to={`/p/${id}/team`}>People and tokens of this project</Link>
      <Link to="/account">Your account</Link>
      {account?.isAdministrator === true && <Link to="/people">All people</Link>}
      <SignOut />
    </nav>
  );
}
