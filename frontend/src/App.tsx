import { ThemeProvider } from '@mui/material/styles'
import { lazy, Suspense, useMemo } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { useSettings } from './shell/settings'
import { Shell } from './shell/Shell'
import { pindoTheme } from './theme/theme'

const CapturePage = lazy(() => import('./capture/CapturePage'))
const BuildsPage = lazy(() => import('./builds/BuildsPage'))

export function App() {
  const settings = useSettings()
  const theme = useMemo(() => pindoTheme(settings.theme), [settings.theme])
  return (
    <ThemeProvider theme={theme}>
      <Routes>
        <Route path="/" element={<Suspense fallback={null}><BuildsPage /></Suspense>} />
        <Route path="/build/:id/capture" element={<Suspense fallback={null}><CapturePage /></Suspense>} />
        <Route path="/build/:id/:station/:question?" element={<Shell />} />
        <Route path="/build/:id" element={<Navigate to="stack" relative="path" replace />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </ThemeProvider>
  )
}
