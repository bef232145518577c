import { createTheme } from '@mui/material/styles';

const text = "'Atkinson Hyperlegible Next Variable', 'Atkinson Hyperlegible Next', system-ui, sans-serif";
const heading = "'Bricolage Grotesque Variable', 'Bricolage Grotesque', system-ui, sans-serif";

/** Colours of both schemes. app.css states the same as custom properties for what is not a MUI part. */
export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-scheme', nativeColor: false },
  colorSchemes: {
    light: {
      palette: {
        primary: { main: '#0B5568', contrastText: '#FFFFFF' },
        error: { main: '#9C2F1B' },
        background: { default: '#F5F1E8', paper: '#FFFDF8' },
        text: { primary: '#20242B', secondary: '#5D6167' },
        divider: '#DCD4C4',
      },
    },
    dark: {
      palette: {
        primary: { main: '#7FC4D6', contrastText: '#10222A' },
        error: { main: '#F0A08E' },
        background: { default: '#1B2127', paper: '#232B32' },
        text: { primary: '#F1EADB', secondary: '#B3B2A9' },
        divider: '#3B454D',
      },
    },
  },
  shape: { borderRadius: 6 },
  spacing: 8,
  typography: {
    fontFamily: text,
    fontSize: 15,
    htmlFontSize: 16,
    body1: { fontSize: '1.0625rem', lineHeight: 1.5 },
    h1: { fontFamily: heading, fontWeight: 700, fontSize: '2rem', lineHeight: 1.15, letterSpacing: '-0.01em' },
    h2: { fontFamily: heading, fontWeight: 700, fontSize: '1.375rem', lineHeight: 1.25 },
    button: { fontFamily: text, fontWeight: 700, textTransform: 'none', fontSize: '1.0625rem' },
  },
  components: {
    MuiButton: {
      defaultProps: { disableElevation: true, disableRipple: true, variant: 'outlined' },
      styleOverrides: {
        root: {
          minHeight: 56,
          padding: '8px 24px',
          borderWidth: 1.5,
          '&:hover': { borderWidth: 1.5 },
          '&.Mui-focusVisible': { outline: '3px solid var(--focus)', outlineOffset: 2 },
        },
        outlined: { borderColor: 'currentColor', backgroundColor: 'var(--sheet)' },
        text: { padding: '8px 8px', marginLeft: -8, textDecoration: 'underline', textUnderlineOffset: 4 },
      },
    },
    MuiTextField: { defaultProps: { variant: 'outlined', fullWidth: true } },
    // Labels stand above their field: they never cover what is typed, and are found by eye at once.
    MuiInputLabel: {
      defaultProps: { shrink: true },
      styleOverrides: {
        root: {
          position: 'static',
          transform: 'none',
          fontSize: '1rem',
          fontWeight: 600,
          color: 'var(--ink)',
          marginBottom: 6,
          maxWidth: 'none',
          whiteSpace: 'normal',
          '&.Mui-focused': { color: 'var(--action)' },
          '&.Mui-error': { color: 'var(--bad)' },
        },
      },
    },
    MuiOutlinedInput: {
      defaultProps: { notched: false },
      styleOverrides: {
        root: {
          backgroundColor: 'var(--sheet)',
          '& legend': { display: 'none' },
          '& fieldset': { top: 0, borderColor: 'var(--edge)' },
        },
        input: { padding: '14px 14px', minHeight: 28, height: 28, boxSizing: 'border-box', minBlockSize: 54 },
        multiline: {
          padding: '12px 14px',
          '& textarea': { padding: 0, minHeight: 0, minBlockSize: 0, boxSizing: 'content-box' },
        },
      },
    },
    MuiFormHelperText: {
      styleOverrides: { root: { margin: '6px 0 0', fontSize: '0.9375rem', '&.Mui-error': { color: 'var(--bad)' } } },
    },
  },
});
