import { ThemeProvider } from '@mui/material/styles';
import { createContext, use, useEffect, useMemo, useState, type ReactNode } from 'react';
import { makeTheme } from '../theme.js';

type Mode = 'light' | 'dark';
const KEY = 'oquel.ground';
const ModeContext = createContext<{ mode: Mode; toggle: () => void }>({
  mode: 'light',
  toggle: () => undefined,
});

/** Light paper unless the person has chosen otherwise, here or for the whole system. */
export function ColorModeProvider({ children }: { children: ReactNode }): ReactNode {
  const [mode, setMode] = useState<Mode>(firstMode);
  useEffect(() => {
    document.documentElement.dataset.mode = mode;
  }, [mode]);
  const value = useMemo(() => {
    const other: Mode = mode === 'dark' ? 'light' : 'dark';
    const toggle = (): void => {
      localStorage.setItem(KEY, other);
      setMode(other);
    };
    return { mode, toggle };
  }, [mode]);
  const theme = useMemo(() => makeTheme(mode), [mode]);
  return (
    <ModeContext value={value}>
      <ThemeProvider theme={theme}>{children}</ThemeProvider>
    </ModeContext>
  );
}
export function useColorMode(): { mode: Mode; toggle: () => void } {
  return use(ModeContext);
}

function firstMode(): Mode {
  const kept = localStorage.getItem(KEY);
  if (kept === 'light' || kept === 'dark') return kept;
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}
