import '@fontsource/sofia-sans-semi-condensed/latin-400.css';
import '@fontsource/sofia-sans-semi-condensed/latin-500.css';
import '@fontsource/sofia-sans-semi-condensed/latin-600.css';
import '@fontsource/sofia-sans-semi-condensed/latin-700.css';
import '@fontsource/sofia-sans-semi-condensed/latin-800.css';
import '@fontsource/spline-sans-mono/latin-400.css';
import '@fontsource/spline-sans-mono/latin-500.css';
import '@fontsource/spline-sans-mono/latin-700.css';
import './app.css';
import './frame.css';
import './parts/ui/sentences.css';
import './parts/ui/fields.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { router } from './routes.js';
import { ColorModeProvider } from './parts/color-mode.js';
import { SignedIn } from './parts/team/signed-in.js';
import { learnWhoSigned } from './session/signed.js';

const queries = new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: false } } });

const show = (): void =>
  createRoot(document.getElementById('root')!).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <ColorModeProvider>
          <SignedIn>
            <RouterProvider router={router} />
          </SignedIn>
        </ColorModeProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
void learnWhoSigned().then(show);
