import '@fontsource/ibm-plex-mono/400.css'
import '@fontsource/ibm-plex-mono/500.css'
import '@fontsource/ibm-plex-sans/400.css'
import '@fontsource/ibm-plex-sans/500.css'
import '@fontsource/ibm-plex-sans/600.css'
import CssBaseline from '@mui/material/CssBaseline'
import GlobalStyles from '@mui/material/GlobalStyles'
import { ThemeProvider } from '@mui/material/styles'
import useMediaQuery from '@mui/material/useMediaQuery'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode, useMemo } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Navigate, Route, Routes } from 'react-router'
import { usePrefs } from './stores/prefs'
import { Bench } from './ui/Bench'
import { ScenesPage } from './ui/ScenesPage'
import { makeTheme } from './ui/theme'

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
          <Route path="/scenes/:id" element={<Bench />} />
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
