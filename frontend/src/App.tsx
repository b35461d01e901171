import { ThemeProvider } from '@mui/material/styles'
import { useMemo } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { BuildsPage } from './builds/BuildsPage'
import { useSettings } from './shell/settings'
import { Shell } from './shell/Shell'
import { pindoTheme } from './theme/theme'

export function App() {
  const settings = useSettings()
  const theme = useMemo(() => pindoTheme(settings.theme), [settings.theme])
  return (
    <ThemeProvider theme={theme}>
      <Routes>
        <Route path="/" element={<BuildsPage />} />
        <Route path="/build/:id/:station/:question?" element={<Shell />} />
        <Route path="/build/:id" element={<Navigate to="stack" relative="path" replace />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </ThemeProvider>
  )
}
