import { createBrowserRouter, Link, Navigate, useLocation, useNavigate, useRouteError } from 'react-router';
import type { ComponentType, ReactNode } from 'react';
import { ProjectFrame } from './parts/frame.js';
import { later, whenIdle, whenSettled } from './parts/later.js';
import { JOIN } from './parts/team/signed-in.js';

/**
 * A view is loaded when it is first gone to, or some time before when nothing else is to do; until then the view before it stays. One that
 * cannot be loaded says so in its place.
 */
const lazily = (
  load: () => Promise<ComponentType>,
  isNear = false,
): { lazy: { Component: () => Promise<ComponentType> } } => {
  if (isNear) whenIdle(load);
  else whenSettled(load);
  return { lazy: { Component: () => load().catch(() => later(load)) } };
};

/** Every address of the application. What is chosen in a view stands in its query. */
export const router = createBrowserRouter([
  {
    path: '/',
    ...lazily(async () => (await import('./views/projects/projects-view.js')).ProjectsView),
    ErrorBoundary: Failed,
    HydrateFallback: Loading,
  },
  {
    ErrorBoundary: Failed,
    HydrateFallback: Loading,
    children: [
      { path: JOIN, ...lazily(async () => (await import('./views/sign-in/join-view.js')).JoinView) },
      {
        path: '/retention',
        ...lazily(async () => (await import('./views/retention/retention-view.js')).RetentionView),
      },
      { path: '/people', ...lazily(async () => (await import('./views/people/people-view.js')).PeopleView) },
      {
        path: '/account',
        ...lazily(async () => (await import('./views/account/account-view.js')).AccountView),
      },
    ],
  },
  {
    path: '/p/:id',
    Component: ProjectFrame,
    ErrorBoundary: Failed,
    HydrateFallback: Loading,
    children: [
      {
        // The project stays open around a view that fails.
        ErrorBoundary: ViewFailed,
        children: [
          { index: true, element: <Navigate to="wire" replace /> },
          { path: 'plan', ...lazily(async () => (await import('./views/plan/plan-view.js')).PlanView) },
          { path: 'wire', ...lazily(async () => (await import('./views/wire/wire-view.js')).WireView) },
          {
            path: 'wire/sheet',
            ...lazily(async () => (await import('./views/sheet/sheet-view.js')).SheetView),
          },
          {
            path: 'ripple',
            ...lazily(async () => (await import('./views/ripple/ripple-view.js')).RippleView),
          },
          {
            path: 'crossings',
            ...lazily(async () => (await import('./views/crossings/crossings-view.js')).CrossingsView),
          },
          {
            path: 'catalogue',
            ...lazily(async () => (await import('./views/catalogue/catalogue-view.js')).CatalogueView),
          },
          {
            path: 'rehearse',
            ...lazily(async () => (await import('./views/rehearse/rehearse-view.js')).RehearseView),
          },
          {
            path: 'rehearse/plays',
            ...lazily(async () => (await import('./views/rehearse/plays/plays-view.js')).PlaysView),
          },
          {
            path: 'rehearse/walk',
            // One key from Wire, with the edit that was just made.
            ...lazily(async () => (await import('./views/rehearse/walk/walk-view.js')).WalkView, true),
          },
          { path: 'audit', ...lazily(async () => (await import('./views/audit/audit-view.js')).AuditView) },
          {
            path: 'builds',
            ...lazily(async () => (await import('./views/builds/builds-view.js')).BuildsView),
          },
          {
            path: 'exchange',
            ...lazily(async () => (await import('./views/exchange/exchange-view.js')).ExchangeView),
          },
          { path: 'team', ...lazily(async () => (await import('./views/team/team-view.js')).TeamView) },
          { path: '*', element: <Navigate to="wire" replace /> },
        ],
      },
    ],
  },
  { path: '*', Component: NoSuchPage },
]);

function Loading(): ReactNode {
  return <div className="middle">Loading ...</div>;
}
function NoSuchPage(): ReactNode {
  return (
    <main className="middle">
      <h1>Nothing is at this address</h1>
      <Link to="/">All projects</Link>
    </main>
  );
}
function ViewFailed(): ReactNode {
  const error = useRouteError();
  const navigate = useNavigate();
  const { pathname, search } = useLocation();
  return (
    <div className="middle" role="alert">
      <h1>This view cannot be shown</h1>
      <p>{error instanceof Error ? error.message : String(error)}</p>
      <p>
        <button
          type="button"
          className="tick"
          onClick={() => void navigate(pathname + search, { replace: true })}
        >
          Try again
        </button>
      </p>
    </div>
  );
}
function Failed(): ReactNode {
  const error = useRouteError();
  return (
    <main className="middle" role="alert">
      <h1>This view has failed</h1>
      <p>{error instanceof Error ? error.message : String(error)}</p>
      <p>What you did before is stored. Load the page again, or go to</p>
      <Link to="/">all projects</Link>
    </main>
  );
}
