import { createTheme, type Theme } from '@mui/material/styles'

/** The roles of PRODUCT.md's look, in both themes. */
export interface Roles {
  paper: string
  raised: string
  sunken: string
  ink: string
  secondary: string
  rule: string
  border: string
  kelp: string
  kelpText: string
  tint: string
  orange: string
  orangeText: string
  slate: string
  brass: string
  brassText: string
  amber: string
  amberText: string
  amberTint: string
  red: string
  redText: string
  redTint: string
  outline: string
  chosenOutline: string
  paleOutline: string
  viewTop: string
  viewBottom: string
  chart: string
}

export const lightRoles: Roles = {
  paper: '#F6F3EC',
  raised: '#FCFAF5',
  sunken: '#EFEBE1',
  ink: '#1B2A33',
  secondary: '#4F5E66',
  rule: '#DDD8CC',
  border: '#86908F',
  kelp: '#2E7466',
  kelpText: '#27665A',
  tint: '#DCE8E2',
  orange: '#D9572B',
  orangeText: '#BC451C',
  slate: '#6C7A80',
  brass: '#B5852A',
  brassText: '#7C5912',
  amber: '#C98A1B',
  amberText: '#84590A',
  amberTint: '#F6E8C9',
  red: '#B3362C',
  redText: '#A52F26',
  redTint: '#F5DDD7',
  outline: '#27343B',
  chosenOutline: '#21403B',
  paleOutline: '#BDB6A5',
  viewTop: '#FAF8F3',
  viewBottom: '#EDE8DC',
  chart: '#B9AF95',
}

export const darkRoles: Roles = {
  paper: '#10191E',
  raised: '#18242B',
  sunken: '#0C1418',
  ink: '#E7E2D6',
  secondary: '#A3AEB2',
  rule: '#2A383F',
  border: '#6D7B81',
  kelp: '#5FB3A1',
  kelpText: '#74C2B1',
  tint: '#1D3A36',
  orange: '#E8734A',
  orangeText: '#F28B66',
  slate: '#8A979C',
  brass: '#D2A44C',
  brassText: '#DDB368',
  amber: '#D99F38',
  amberText: '#E6B65E',
  amberTint: '#3A2D14',
  red: '#DD6B5F',
  redText: '#EE8A7F',
  redTint: '#43211D',
  outline: '#0B1216',
  chosenOutline: '#3D7A6E',
  paleOutline: '#3B4C55',
  viewTop: '#142027',
  viewBottom: '#0D1519',
  chart: '#3E5059',
}

declare module '@mui/material/styles' {
  interface Theme {
    roles: Roles
  }
  interface ThemeOptions {
    roles?: Roles
  }
}

export const mono = "'IBM Plex Mono', monospace"
const sans = "'IBM Plex Sans', sans-serif"

/** Without motion menus and dialogs are there, and gone, at once. */
const atOnce = {
  create: () => 'none',
  getAutoHeightDuration: () => 0,
  duration: {
    shortest: 0,
    shorter: 0,
    short: 0,
    standard: 0,
    complex: 0,
    enteringScreen: 0,
    leavingScreen: 0,
  },
}

export function makeTheme(dark: boolean, reducedMotion = false): Theme {
  const r = dark ? darkRoles : lightRoles
  return createTheme({
    ...(reducedMotion ? { transitions: atOnce } : {}),
    roles: r,
    palette: {
      mode: dark ? 'dark' : 'light',
      primary: { main: r.kelp, contrastText: dark ? '#0C1C19' : '#FFFFFF' },
      secondary: { main: r.orange },
      error: { main: r.red },
      warning: { main: r.amber },
      background: { default: r.paper, paper: r.raised },
      text: { primary: r.ink, secondary: r.secondary },
      divider: r.rule,
    },
    shape: { borderRadius: 6 },
    spacing: 8,
    typography: {
      fontFamily: sans,
      fontSize: 12,
      body1: { fontSize: 12, lineHeight: '16px' },
      body2: { fontSize: 12, lineHeight: '16px' },
      button: { textTransform: 'none', fontSize: 12, fontWeight: 500, lineHeight: '16px' },
      h1: { fontSize: 17, lineHeight: '24px', fontWeight: 600 },
      h2: { fontSize: 15, lineHeight: '20px', fontWeight: 600 },
      h3: { fontSize: 13, lineHeight: '18px', fontWeight: 600 },
    },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          'html, body, #root': { height: '100%' },
          body: { overflow: 'hidden' },
          '*:focus-visible': { outline: `2px solid ${r.kelp}`, outlineOffset: 1 },
          '@media (prefers-reduced-motion: reduce)': {
            '*': { transition: 'none !important', animation: 'none !important' },
          },
        },
      },
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { disableElevation: true, size: 'small' },
        styleOverrides: { root: { minHeight: 28, padding: '4px 12px' } },
      },
      MuiIconButton: { styleOverrides: { root: { borderRadius: 6, color: r.ink } } },
      MuiTooltip: {
        defaultProps: { enterDelay: 500 },
        styleOverrides: { tooltip: { fontSize: 11, background: r.ink, color: r.paper } },
      },
      // A place of its own for those who listen to the page.
      MuiMenu: { defaultProps: { slotProps: { paper: { role: 'region', 'aria-label': 'Menu' } } } },
      MuiMenuItem: { styleOverrides: { root: { fontSize: 12, minHeight: 30 } } },
      MuiDialog: { styleOverrides: { paper: { backgroundImage: 'none', border: `1px solid ${r.rule}` } } },
      MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
      MuiToggleButton: {
        styleOverrides: {
          root: {
            textTransform: 'none',
            fontSize: 12,
            lineHeight: '16px',
            padding: '4px 6px',
            color: r.secondary,
            borderColor: r.border,
            '&.Mui-selected': {
              background: r.kelp,
              color: dark ? '#0C1C19' : '#fff',
              '&:hover': { background: r.kelp },
            },
          },
        },
      },
    },
  })
}

/** Said to those who listen to the page, and not seen. */
export const unseen = {
  position: 'absolute',
  width: '1px',
  height: '1px',
  overflow: 'hidden',
  clipPath: 'inset(50%)',
  whiteSpace: 'nowrap',
} as const

/** Three number fields in a row, where each of them is wide enough to be read. */
export const threeFields = {
  display: 'grid',
  gridTemplateColumns: 'repeat(auto-fit, minmax(70px, 1fr))',
  gap: 0.75,
} as const
