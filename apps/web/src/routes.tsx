import { createBrowserRouter, Link, Navigate, useRouteError } from 'react-router';
import type { ReactNode } from 'react';
import { ProjectFrame } from './parts/frame.js';
import { AuditView } from './views/audit/audit-view.js';
import { BuildsView } from './views/builds/builds-view.js';
import { CatalogueView } from './views/catalogue/catalogue-view.js';
import { CrossingsView } from './views/crossings/crossings-view.js';
import { ExchangeView } from './views/exchange/exchange-view.js';
import { PlanView } from './views/plan/plan-view.js';
import { ProjectsView } from './views/projects/projects-view.js';
import { RehearseView } from './views/rehearse/rehearse-view.js';
import { RippleView } from './views/ripple/ripple-view.js';
import { SheetView } from './views/sheet/sheet-view.js';
import { WireView } from './views/wire/wire-view.js';

/** Every address of the application. What is chosen in a view stands in its query. */
export const router = createBrowserRouter([
  { path: '/', Component: ProjectsView, ErrorBoundary: Failed },
  {
    path: '/p/:id',
    Component: ProjectFrame,
    ErrorBoundary: Failed,
    children: [
      { index: true, element: <Navigate to="wire" replace /> },
      { path: 'plan', Component: PlanView },
      { path: 'wire', Component: WireView },
      { path: 'wire/sheet', Component: SheetView },
      { path: 'ripple', Component: RippleView },
      { path: 'crossings', Component: CrossingsView },
      { path: 'catalogue', Component: CatalogueView },
      { path: 'rehearse', Component: RehearseView },
      { path: 'audit', Component: AuditView },
      { path: 'builds', Component: BuildsView },
      { path: 'exchange', Component: ExchangeView },
      { path: '*', element: <Navigate to="wire" replace /> },
    ],
  },
  { path: '*', Component: NoSuchPage },
]);

function NoSuchPage(): ReactNode {
  return (
    <main className="middle">
      <h1>Nothing is at this address</h1>
      <Link to="/">All projects</Link>
    </main>
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
