import './team.css';
import { useEffect, type ReactNode } from 'react';
import { Link } from 'react-router';
import { signOut } from '../../api/team.js';
import { signedHere } from '../../session/signed.js';

/** A page about people, outside of any project. */
export function TeamPage({ title, children }: { title: string; children: ReactNode }): ReactNode {
  useEffect(() => {
    document.title = `${title} · Oquel`;
  }, [title]);
  return (
    <main className="teampage">
      <div className="row teamhead">
        <h1>{title}</h1>
        <span className="grow" />
        <Link to="/">All projects</Link>
        <AccountLinks />
      </div>
      {children}
    </main>
  );
}

/** Where somebody who has signed in goes from any page; nothing where nobody signs in. */
export function AccountLinks(): ReactNode {
  const { team, account } = signedHere();
  if (!team || !account) return null;
  return (
    <nav className="row" aria-label="You and the team">
      {account.isAdministrator && (
        <>
          <Link to="/people">People</Link>
          <Link to="/retention">Retention</Link>
        </>
      )}
      <Link to="/account">{account.name}</Link>
      <SignOut />
    </nav>
  );
}
export function SignOut(): ReactNode {
  return (
    <button
      type="button"
      className="word"
      // Whatever the server said, this browser asks it anew who is here.
      onClick={() => void signOut().finally(() => window.location.assign('/'))}
    >
      Sign out
    </button>
  );
}
