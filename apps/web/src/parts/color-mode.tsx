import { ThemeProvider } from '@mui/material/styles';
import { createContext, use, useEffect, useMemo, useState, type ReactNode } from 'react';
import { makeTheme } from '../theme.js';

type Mode = 'light' | 'dark';
/** What a person can choose; `system` follows the system while it changes. */
export const THEMES = ['system', 'light', 'dark'] as const;
export type ThemeChoice = (typeof THEMES)[number];
const KEY = 'oquel.ground';
const DARK = '(prefers-color-scheme: dark)';
const ModeContext = createContext<{ theme: ThemeChoice; mode: Mode; setTheme: (theme: ThemeChoice) => void }>(
  {
    theme: 'system',
    mode: 'light',
    setTheme: () => undefined,
  },
);

/** The theme that the person has chosen here, or that of the system, also when that changes. */
export function ColorModeProvider({ children }: { children: ReactNode }): ReactNode {
  const [theme, choose] = useState<ThemeChoice>(keptTheme);
  const [system, setSystem] = useState<Mode>(systemMode);
  useEffect(() => {
    const query = window.matchMedia(DARK);
    const follow = (): void => setSystem(systemMode());
    query.addEventListener('change', follow);
    return () => query.removeEventListener('change', follow);
  }, []);
  const mode = theme === 'system' ? system : theme;
  useEffect(() => {
    document.documentElement.dataset.mode = mode;
  }, [mode]);
  const value = useMemo(() => {
    const setTheme = (next: ThemeChoice): void => {
      if (next === 'system') localStorage.removeItem(KEY);
      else localStorage.setItem(KEY, next);
      choose(next);
    };
    return { theme, mode, setTheme };
  }, [theme, mode]);
  const muiTheme = useMemo(() => makeTheme(mode), [mode]);
  return (
    <ModeContext value={value}>
      <ThemeProvider theme={muiTheme}>{children}</ThemeProvider>
    </ModeContext>
  );
}
export function useColorMode(): { theme: ThemeChoice; mode: Mode; setTheme: (theme: ThemeChoice) => void } {
  return use(ModeContext);
}

function keptTheme(): ThemeChoice {
  const kept = localStorage.getItem(KEY);
  return kept === 'light' || kept === 'dark' ? kept : 'system';
}
function systemMode(): Mode {
  return window.matchMedia(DARK).matches ? 'dark' : 'light';
}
