import Contrast from '@mui/icons-material/Contrast'
import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { aboutQuery, beginScene, createScene, scenesQuery, takeDocument } from '../../api/client'
import type { Starter } from '../../core/page.generated'
import { Mark } from '../../look/icons'
import { usePrefs } from '../../stores/prefs'
import { Beginnings } from './Beginnings'
import { SceneList } from './SceneList'
import { StarterDialog } from './StarterDialog'
import { Unsaved } from './Unsaved'
import { useBring } from './useBring'

/** Scenes as cards, starters by job, and files dropped anywhere. */
export function ScenesPage() {
  const { roles, palette } = useTheme()
  const navigate = useNavigate()
  const scenes = useQuery(scenesQuery)
  const about = useQuery(aboutQuery)
  const [error, setError] = useState('')
  const [over, setOver] = useState(false)
  const [asking, setAsking] = useState<Starter | null>(null)
  const say = (e: unknown) => setError(e instanceof Error ? e.message : String(e))
  const start = useMutation({ mutationFn: createScene, onSuccess: (s) => navigate(`/scenes/${s.id}`), onError: say })
  const bring = useMutation({
    mutationFn: takeDocument,
    onSuccess: (s) => navigate(`/scenes/${s.id}`),
    onError: say,
  })
  const begin = useMutation({ mutationFn: beginScene, onSuccess: (s) => navigate(`/scenes/${s.id}`), onError: say })
  useEffect(() => {
    document.title = 'Scenes · Bead'
  }, [])

  const { input, take } = useBring((scene) => bring.mutate(scene), setError)

  return (
    <Box
      sx={{ height: '100%', overflow: 'auto', background: roles.paper }}
      onDragOver={(e) => {
        e.preventDefault()
        setOver(true)
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={(e) => {
        e.preventDefault()
        setOver(false)
        const file = e.dataTransfer.files[0]
        if (file) take(file)
      }}
    >
      <Box
        component="header"
        sx={{
          height: 44,
          display: 'flex',
          alignItems: 'center',
          gap: 0.75,
          px: 3,
          borderBottom: `1px solid ${roles.rule}`,
        }}
      >
        <Mark />
        <Box component="h1" sx={{ typography: 'h1', m: 0, flex: 1 }}>
          Bead
        </Box>
        <Box sx={{ fontSize: 11, color: roles.secondary, mr: 1 }}>
          {about.data?.version} ·{' '}
          <a href="/licences.txt" style={{ color: 'inherit' }}>
            Licences
          </a>
        </Box>
        <IconButton
          aria-label={palette.mode === 'dark' ? 'Light theme' : 'Dark theme'}
          sx={{ width: 32, height: 32 }}
          onClick={() => usePrefs.getState().toggleDark(palette.mode === 'dark')}
        >
          <Contrast sx={{ fontSize: 18 }} />
        </IconButton>
      </Box>
      <Box component="main" sx={{ maxWidth: 1120, mx: 'auto', px: 3, py: 3 }}>
        <Box component="h2" sx={{ typography: 'h2', mt: 0, mb: 1.5 }}>
          Begin with a job
        </Box>
        <Beginnings
          starters={about.data?.starters ?? []}
          own={scenes.data?.filter((s) => s.beginning) ?? []}
          busy={start.isPending || begin.isPending}
          onStart={(s) => (s.questions?.length ? setAsking(s) : start.mutate({ starter: s.id }))}
          onBegin={(id) => begin.mutate(id)}
          onFile={take}
        />
        {error && (
          <Alert severity="error" onClose={() => setError('')} sx={{ mb: 2 }}>
            {error}
          </Alert>
        )}
        <SceneList say={say} />
        <Unsaved />
      </Box>
      {input}
      {over && (
        <Box
          sx={{
            position: 'fixed',
            inset: 8,
            border: `2px dashed ${roles.kelp}`,
            borderRadius: '6px',
            background: roles.tint,
            opacity: 0.9,
            display: 'grid',
            placeItems: 'center',
            pointerEvents: 'none',
            typography: 'h2',
          }}
        >
          Let go to import
        </Box>
      )}
      {asking && (
        <StarterDialog
          starter={asking}
          busy={start.isPending}
          error={error}
          onClose={() => {
            setAsking(null)
            setError('')
          }}
          onBegin={(answers) => start.mutate({ starter: asking.id, answers })}
        />
      )}
    </Box>
  )
}
