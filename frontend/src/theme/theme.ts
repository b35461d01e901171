import { createTheme, type Theme } from '@mui/material/styles'

export type ThemeName = 'paper' | 'night'

const SANS = "'Atkinson Hyperlegible Next Variable', sans-serif"

const INKS = {
  paper: { ink: '#1d2b3a', soft: '#556070', blue: '#1b4f8f', onBlue: '#ffffff', paper: '#f4f1e8', sheet: '#fbfaf5', line: '#d3cdbd', fouls: '#ad2a1d' },
  night: { ink: '#e8e4d9', soft: '#a9b2bc', blue: '#8fbdf0', onBlue: '#10161c', paper: '#14191f', sheet: '#1b2229', line: '#323c46', fouls: '#f08b7c' },
} as const

/** The MUI theme, set fully: square corners, drawing lines, no shadows, no ripple, no motion. */
export function pindoTheme(name: ThemeName): Theme {
  const c = INKS[name]
  return createTheme({
    palette: {
      mode: name === 'night' ? 'dark' : 'light',
      primary: { main: c.blue, contrastText: c.onBlue },
      secondary: { main: c.soft },
      error: { main: c.fouls },
      background: { default: c.paper, paper: c.sheet },
      text: { primary: c.ink, secondary: c.soft },
      divider: c.line,
    },
    shape: { borderRadius: 0 },
    spacing: 4,
    typography: { fontFamily: SANS, fontSize: 14, htmlFontSize: 16, button: { textTransform: 'none', fontWeight: 500, letterSpacing: 0 } },
    transitions: { create: () => 'none' },
    components: {
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { disableElevation: true, size: 'small' },
        styleOverrides: {
          root: { minHeight: '2rem', padding: '3px 12px', fontSize: '0.9375rem', '@media (pointer: coarse)': { minHeight: '2.75rem' } },
          outlined: { borderColor: c.blue },
          text: { color: c.ink },
        },
      },
      MuiDialog: { defaultProps: { transitionDuration: 0 }, styleOverrides: { paper: { border: `1px solid ${c.ink}`, boxShadow: 'none', backgroundImage: 'none' } } },
      MuiDialogTitle: { styleOverrides: { root: { fontSize: '1.0625rem', fontWeight: 700, padding: '14px 18px 6px' } } },
      MuiDialogContent: { styleOverrides: { root: { padding: '6px 18px 14px' } } },
      MuiDialogActions: { styleOverrides: { root: { padding: '8px 18px 14px' } } },
      MuiInputBase: { styleOverrides: { root: { fontSize: '0.9375rem' } } },
      MuiTextField: { defaultProps: { size: 'small', variant: 'standard', fullWidth: true } },
      MuiInputLabel: { styleOverrides: { root: { fontSize: '0.9375rem', color: c.soft } } },
      MuiDrawer: { defaultProps: { transitionDuration: 0 }, styleOverrides: { paper: { borderLeft: `1px solid ${c.ink}`, boxShadow: 'none', backgroundImage: 'none' } } },
    },
  })
}
