import '@fontsource/ibm-plex-mono/latin-400.css'
import '@fontsource/ibm-plex-mono/latin-500.css'
import '@fontsource/ibm-plex-sans/latin-400.css'
import '@fontsource/ibm-plex-sans/latin-500.css'
import '@fontsource/ibm-plex-sans/latin-600.css'
import CssBaseline from '@mui/material/CssBaseline'
import GlobalStyles from '@mui/material/GlobalStyles'
import { ThemeProvider } from '@mui/material/styles'
import useMediaQuery from '@mui/material/useMediaQuery'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { lazy, StrictMode, Suspense, useMemo } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Navigate, Route, Routes } from 'react-router'
import { usePrefs } from './stores/prefs'
import { ScenesPage } from './ui/scenes/ScenesPage'
import { makeTheme } from './look/theme'

/** The bench with its view in 3-D comes after the scenes, or when one is opened. */
const bench = () => import('./ui/Bench')
const Bench = lazy(() => bench().then((m) => ({ default: m.Bench })))
setTimeout(() => void bench(), 1500)

const client = new QueryClient({ defaultOptions: { queries: { retry: 1 } } })

function App() {
  const system = useMediaQuery('(prefers-color-scheme: dark)')
  const dark = usePrefs((p) => p.dark) ?? system
  const reduced = useMediaQuery('(prefers-reduced-motion: reduce)')
  const theme = useMemo(() => makeTheme(dark, reduced), [dark, reduced])
  const { roles } = theme
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <GlobalStyles
        styles={{
          ':root': {
            '--bead-ink': roles.ink,
            '--bead-kelp': roles.kelp,
            '--bead-orange': roles.orange,
            colorScheme: dark ? 'dark' : 'light',
          },
        }}
      />
      <BrowserRouter>
        <Routes>
          <Route path="/" element={<ScenesPage />} />
          <Route
            path="/scenes/:id"
            element={
              <Suspense>
                <Bench />
              </Suspense>
            }
          />
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
      </BrowserRouter>
    </ThemeProvider>
  )
}

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <App />
    </QueryClientProvider>
  </StrictMode>,
)
