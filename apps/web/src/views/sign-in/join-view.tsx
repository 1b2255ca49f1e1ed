import '../../parts/team/team.css';
import { Button } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState, type ReactNode } from 'react';
import { join, offerOf } from '../../api/team.js';
import { Failure } from '../../parts/team/failure.js';
import { roleOffered } from '../../parts/team/open-invitations.js';
import { PasswordField } from '../../parts/team/password-field.js';

/** Accepting an invitation: a name to sign in with, the name that stands in the history, and a password. */
export function JoinView(): ReactNode {
  const [secret] = useState(() => window.location.hash.slice(1));
  const { data: offer, error } = useQuery({
    queryKey: ['offer', secret],
    queryFn: () => offerOf(secret),
    retry: false,
  });
  const [name, setName] = useState('');
  const [login, setLogin] = useState('');
  const [password, setPassword] = useState('');
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<unknown>(null);
  useEffect(() => {
    document.title = 'Join · Oquel';
  }, []);
  if (error) {
    return (
      <main className="middle">
        <h1>This link cannot be used</h1>
        <Failure of={error} />
        <a href="/">To Oquel</a>
      </main>
    );
  }
  if (!offer) return <main className="middle">Looking at the invitation ...</main>;
  const isNew = offer.personName === null;
  const isReady = password !== '' && (!isNew || (name.trim() !== '' && login.trim() !== ''));
  const send = async (): Promise<void> => {
    setBusy(true);
    setFailure(null);
    try {
      const named = isNew
        ? { login: login.trim(), name: name.trim() }
        : { login: 'as-before', name: 'as before' };
      await join({ secret, password, ...named });
      window.location.assign('/');
    } catch (problem) {
      setFailure(problem);
      setBusy(false);
    }
  };
  return (
    <main className="doorway">
      <form
        aria-label="Join"
        onSubmit={(e) => {
          e.preventDefault();
          void send();
        }}
      >
        <h1>OQUEL</h1>
        <p>
          {isNew
            ? `${offer.madeBy} invites you to Oquel as ${roleOffered(offer)}.`
            : `A new password for ${offer.personName}. Wherever you are signed in, you are signed out.`}
        </p>
        {isNew && (
          <>
            <label>
              Your name, as it stands in history, waivers and builds
              <input
                className="line"
                aria-label="Your name"
                autoFocus
                autoComplete="name"
                maxLength={100}
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
            </label>
            <label>
              Sign-in name
              <input
                className="line"
                aria-label="Sign-in name"
                autoComplete="username"
                autoCapitalize="none"
                spellCheck={false}
                maxLength={100}
                value={login}
                onChange={(e) => setLogin(e.target.value)}
              />
            </label>
          </>
        )}
        <PasswordField label="Password" isNew value={password} onValue={setPassword} />
        <p className="soft">
          At least 12 characters; a few words that nobody would guess are easiest to remember.
        </p>
        <Failure of={failure} />
        <Button type="submit" variant="contained" disabled={busy || !isReady}>
          {isNew ? 'Join' : 'Set the password'}
        </Button>
      </form>
    </main>
  );
}
