import './team.css';
import { Button } from '@mui/material';
import { useEffect, useState, type ReactNode } from 'react';
import { signIn } from '../../api/team.js';
import { signedHere } from '../../session/signed.js';
import { Failure } from './failure.js';

/** Signing in, at whatever address somebody has come to: it is loaded anew afterwards. */
export function SignIn(): ReactNode {
  const [login, setLogin] = useState('');
  const [password, setPassword] = useState('');
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<unknown>(() =>
    window.location.hash === '#not-signed-in'
      ? new Error('Single sign-on did not work; an administrator finds the reason in the security log')
      : null,
  );
  const { sso } = signedHere();
  useEffect(() => {
    document.title = 'Sign in · Oquel';
  }, []);
  const send = async (): Promise<void> => {
    setBusy(true);
    setFailure(null);
    try {
      await signIn({ login: login.trim(), password });
      window.location.reload();
    } catch (error) {
      setFailure(error);
      setBusy(false);
    }
  };
  return (
    <main className="doorway">
      <form
        aria-label="Sign in"
        onSubmit={(e) => {
          e.preventDefault();
          void send();
        }}
      >
        <h1>OQUEL</h1>
        <label>
          Sign-in name
          <input
            className="line"
            autoFocus
            autoComplete="username"
            autoCapitalize="none"
            spellCheck={false}
            value={login}
            maxLength={100}
            onChange={(e) => setLogin(e.target.value)}
          />
        </label>
        <label>
          Password
          <input
            className="line"
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
        </label>
        <Failure of={failure} />
        <Button type="submit" variant="contained" disabled={busy || login.trim() === '' || password === ''}>
          {busy ? 'Signing in ...' : 'Sign in'}
        </Button>
        {sso !== null && <a href="/api/sso">Sign in by {sso}</a>}
        <p className="soft">
          Who has no account is invited by a lead of a project; who has forgotten the password asks an
          administrator for a link that sets a new one. What was not stored yet is kept in this browser.
        </p>
      </form>
    </main>
  );
}
