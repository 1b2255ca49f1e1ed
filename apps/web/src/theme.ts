import { createTheme, type Theme } from '@mui/material/styles';

/** The theme of the component library is made of the same variables as `app.css`, so both grounds follow one switch. */
export function makeTheme(mode: 'light' | 'dark'): Theme {
  const dark = mode === 'dark';
  const ink = dark ? '#e9e4d6' : '#1c2733';
  const sheet = dark ? '#1d232b' : '#fdfbf5';
  const line = dark ? '#4a525c' : '#cfc8b6';
  return createTheme({
    palette: {
      mode,
      primary: { main: dark ? '#c3a3f0' : '#5a2b8c' },
      error: { main: dark ? '#ff9b8a' : '#a3271c' },
      warning: { main: dark ? '#e5b567' : '#7d5600' },
      info: { main: dark ? '#9cc3ea' : '#235a8c' },
      text: { primary: ink, secondary: dark ? '#b5b1a6' : '#545e66' },
      background: { default: dark ? '#161b21' : '#f4f0e6', paper: sheet },
      divider: line,
    },
    shape: { borderRadius: 0 },
    typography: {
      fontFamily: "'Sofia Sans Semi Condensed Variable', 'Sofia Sans Semi Condensed', sans-serif",
      fontSize: 14,
      button: { textTransform: 'none', fontWeight: 600 },
    },
    transitions: { create: () => 'none' },
    components: {
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { size: 'small', disableElevation: true },
        styleOverrides: { root: { minHeight: 28, padding: '2px 12px', lineHeight: 1.4 } },
      },
      MuiTabs: {
        styleOverrides: {
          root: { minHeight: 32, flex: 'none' },
          indicator: { height: 3, backgroundColor: dark ? '#c3a3f0' : '#5a2b8c' },
        },
      },
      MuiTab: {
        styleOverrides: {
          root: {
            minHeight: 32,
            minWidth: 0,
            maxWidth: 'none',
            padding: '3px 12px 5px',
            fontSize: 15,
            fontWeight: 400,
            color: ink,
            '&.Mui-selected': { color: ink, fontWeight: 700 },
            '&.Mui-focusVisible': { outline: '2px solid', outlineOffset: -2 },
          },
        },
      },
      MuiSnackbarContent: {
        styleOverrides: {
          root: { background: ink, color: sheet, padding: '2px 8px 2px 14px', borderRadius: 0, border: 0 },
          message: { fontSize: 15 },
        },
      },
      MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { border: `1px solid ${ink}` } } },
      MuiOutlinedInput: {
        styleOverrides: {
          root: { minHeight: 28, fontSize: 14, background: sheet },
          input: { padding: '3px 8px' },
          notchedOutline: { borderColor: line },
        },
      },
      MuiAutocomplete: {
        styleOverrides: {
          inputRoot: { '&.MuiInputBase-sizeSmall': { padding: '1px 34px 1px 4px' } },
          input: { '&&': { padding: '2px 4px' } },
          listbox: { padding: 0, fontSize: 14 },
        },
      },
      MuiTableCell: {
        styleOverrides: {
          root: {
            fontSize: 'inherit',
            lineHeight: 'inherit',
            verticalAlign: 'top',
            overflowWrap: 'anywhere',
            borderBottom: `1px dotted ${line}`,
          },
          sizeSmall: { padding: '3px 14px 3px 0' },
          head: {
            overflowWrap: 'normal',
            fontWeight: 500,
            color: dark ? '#b5b1a6' : '#545e66',
            verticalAlign: 'bottom',
          },
        },
      },
      MuiTable: { styleOverrides: { root: { '& caption': { captionSide: 'top', padding: '4px 0' } } } },
      MuiLinearProgress: {
        styleOverrides: { root: { height: 6, background: line, border: `1px solid ${line}` } },
      },
      MuiTooltip: {
        styleOverrides: { tooltip: { background: ink, color: sheet, fontSize: 13, borderRadius: 0 } },
      },
    },
  });
}
