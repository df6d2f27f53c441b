import Contrast from '@mui/icons-material/Contrast'
import MoreHoriz from '@mui/icons-material/MoreHoriz'
import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogTitle from '@mui/material/DialogTitle'
import IconButton from '@mui/material/IconButton'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import { useTheme } from '@mui/material/styles'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import {
  readMeshFile,
  aboutQuery,
  copyScene,
  createScene,
  deleteScene,
  documentUrl,
  pictureUrl,
  scenesQuery,
  takeDocument,
} from '../../api/client'
import type { SceneCard, Starter } from '../../core/page.generated'
import { addPath, documentVersion } from '../../core/value'
import { resumeUnsaved } from '../../stores/bench'
import { usePrefs } from '../../stores/prefs'
import type { Document } from '../../core/page.generated'
import { BodyIcon, CableIcon, ChainIcon, CurveIcon, LoopIcon, Mark, TrainIcon, WalkerIcon } from '../../look/icons'
import { StarterDialog } from './StarterDialog'
import { addMesh } from '../rack/ImportMesh'
import { useImport } from '../rack/ImportPaths'

const starterIcons: Record<string, React.ReactNode> = {
  cable: <CableIcon />,
  creature: <BodyIcon />,
  walker: <WalkerIcon />,
  tread: <LoopIcon />,
  chain: <ChainIcon />,
  row: <TrainIcon />,
  empty: <CurveIcon />,
}

/** Scenes as cards, starters by job, and files dropped anywhere. */
export function ScenesPage() {
  const { roles, palette } = useTheme()
  const navigate = useNavigate()
  const client = useQueryClient()
  const scenes = useQuery(scenesQuery)
  const about = useQuery(aboutQuery)
  // Edits that an earlier visit left are sent again; those still here are said.
  const unsaved = useQuery({ queryKey: ['unsaved'], queryFn: resumeUnsaved, refetchInterval: 3000 })
  const [error, setError] = useState('')
  const [over, setOver] = useState(false)
  const [doomed, setDoomed] = useState<SceneCard | null>(null)
  const [asking, setAsking] = useState<Starter | null>(null)
  const pick = useRef<HTMLInputElement>(null)
  const say = (e: unknown) => setError(e instanceof Error ? e.message : String(e))
  const renew = () => client.invalidateQueries({ queryKey: ['scenes'] })
  const start = useMutation({ mutationFn: createScene, onSuccess: (s) => navigate(`/scenes/${s.id}`), onError: say })
  const bring = useMutation({
    mutationFn: takeDocument,
    onSuccess: (s) => navigate(`/scenes/${s.id}`),
    onError: say,
  })
  const copy = useMutation({ mutationFn: copyScene, onSuccess: renew, onError: say })
  const drop = useMutation({ mutationFn: deleteScene, onSuccess: renew, onError: say })

  useEffect(() => {
    document.title = 'Scenes · Bead'
  }, [])

  const blank = (file: string): Document => ({
    bead: documentVersion,
    name: file.replace(/\.[^.]+$/, '').slice(0, 60) || 'Imported',
    fps: 24,
    range: { first: 1, last: 96 },
    paths: [],
    parts: [],
    rigs: [],
  })
  const { input, load } = useImport(
    (file, paths) => {
      const doc = blank(file)
      for (const p of paths) addPath(doc, p.name, p.shape)
      bring.mutate(new Blob([JSON.stringify(doc)]))
    },
    setError,
    (file) =>
      void readMeshFile(file).then(
        (mesh) => {
          const doc = blank(file.name)
          addMesh(doc, file.name, mesh)
          bring.mutate(new Blob([JSON.stringify(doc)]))
        },
        (e: unknown) => setError(`${file.name}: ${e instanceof Error ? e.message : String(e)}`),
      ),
  )

  /** A scene document opens as a new scene; of a file of paths it is asked how they lie. */
  function take(file: File) {
    setError('')
    if (/\.json$/i.test(file.name)) bring.mutate(file)
    else void load(file, false)
  }

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
        <Box sx={{ fontSize: 11, color: roles.secondary, mr: 1 }}>{about.data?.version}</Box>
        <IconButton
          aria-label={palette.mode === 'dark' ? 'Light theme' : 'Dark theme'}
          sx={{ width: 32, height: 32 }}
          onClick={() => usePrefs.getState().toggleDark(palette.mode === 'dark')}
        >
          <Contrast sx={{ fontSize: 18 }} />
        </IconButton>
      </Box>
      <Box component="main" sx={{ maxWidth: 1120, mx: 'auto', px: 3, py: 3 }}>
        {(unsaved.data?.length ?? 0) > 0 && (
          <Alert severity="warning" sx={{ mb: 2 }} data-testid="unsaved">
            Not saved yet, kept in this browser:{' '}
            {unsaved.data!.map((u, i) => (
              <span key={u.key}>
                {i > 0 && ', '}
                <Link to={`/scenes/${u.id}`} style={{ color: 'inherit' }}>
                  {u.name}
                </Link>{' '}
                ({u.edits.length === 1 ? '1 edit' : `${u.edits.length} edits`})
              </span>
            ))}
          </Alert>
        )}
        <Box component="h2" sx={{ typography: 'h2', mt: 0, mb: 1.5 }}>
          Begin with a job
        </Box>
        <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(252px, 1fr))', gap: 2, mb: 4 }}>
          {about.data?.starters.map((s) => (
            <Button
              key={s.id}
              variant="outlined"
              color="inherit"
              disabled={start.isPending}
              onClick={() => (s.questions?.length ? setAsking(s) : start.mutate({ starter: s.id }))}
              sx={{
                justifyContent: 'flex-start',
                textAlign: 'left',
                p: 1.5,
                gap: 1.5,
                borderColor: roles.border,
                background: roles.raised,
                '&:hover': { borderColor: roles.kelp, background: roles.tint },
              }}
            >
              <Box sx={{ color: roles.kelp, display: 'flex', '& svg': { fontSize: 26 } }}>{starterIcons[s.id]}</Box>
              <Box>
                <Box sx={{ typography: 'h3' }}>{s.name}</Box>
                <Box sx={{ color: roles.secondary, fontWeight: 400 }}>{s.text}</Box>
              </Box>
            </Button>
          ))}
          <Button
            variant="outlined"
            color="inherit"
            onClick={() => pick.current?.click()}
            sx={{
              p: 1.5,
              border: `1px dashed ${roles.border}`,
              color: roles.secondary,
              justifyContent: 'flex-start',
              textAlign: 'left',
              fontWeight: 400,
            }}
          >
            Drop a file anywhere, or choose one: a scene document, paths as SVG, CSV, OBJ or glTF lines, a mesh as OBJ
            or glTF
          </Button>
          <input
            ref={pick}
            hidden
            type="file"
            accept=".json,.svg,.csv,.tsv,.txt,.obj,.glb,.gltf"
            data-testid="scene-file"
            onChange={(e) => {
              const file = e.target.files?.[0]
              e.target.value = ''
              if (file) take(file)
            }}
          />
        </Box>
        {error && (
          <Alert severity="error" onClose={() => setError('')} sx={{ mb: 2 }}>
            {error}
          </Alert>
        )}
        <Box component="h2" sx={{ typography: 'h2', m: 0, mb: 1.5 }}>
          Scenes
        </Box>
        {scenes.isError && (
          <Alert severity="error" action={<Button onClick={() => void scenes.refetch()}>Try again</Button>}>
            {scenes.error.message}
          </Alert>
        )}
        {scenes.data?.length === 0 && (
          <Box sx={{ color: roles.secondary }}>No scene yet. Press one of the jobs above to begin.</Box>
        )}
        <Box
          component="ul"
          sx={{
            listStyle: 'none',
            m: 0,
            p: 0,
            display: 'grid',
            gridTemplateColumns: 'repeat(auto-fill, minmax(252px, 1fr))',
            gap: 2,
          }}
        >
          {scenes.data?.map((s) => (
            <Card
              key={s.id}
              card={s}
              theme={palette.mode}
              onCopy={() => copy.mutate(s.id)}
              onDelete={() => setDoomed(s)}
            />
          ))}
        </Box>
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
      <Dialog open={!!doomed} onClose={() => setDoomed(null)}>
        <DialogTitle sx={{ typography: 'h2' }}>Delete “{doomed?.name}” and its history?</DialogTitle>
        <DialogActions>
          <Button color="inherit" onClick={() => setDoomed(null)}>
            Keep it
          </Button>
          <Button
            color="error"
            variant="contained"
            onClick={() => {
              if (doomed) drop.mutate(doomed.id)
              setDoomed(null)
            }}
          >
            Delete
          </Button>
        </DialogActions>
      </Dialog>
    </Box>
  )
}

function Card({
  card,
  theme,
  onCopy,
  onDelete,
}: {
  card: SceneCard
  theme: string
  onCopy: () => void
  onDelete: () => void
}) {
  const { roles } = useTheme()
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  return (
    <Box
      component="li"
      sx={{
        position: 'relative',
        border: `1px solid ${roles.rule}`,
        borderRadius: '6px',
        overflow: 'hidden',
        background: roles.raised,
        '&:hover': { borderColor: roles.kelp },
      }}
    >
      <Box
        {...(card.unreadable ? {} : { component: Link, to: `/scenes/${card.id}` })}
        sx={{ display: 'block', color: 'inherit', textDecoration: 'none' }}
      >
        {card.unreadable ? (
          <Box sx={{ aspectRatio: '16 / 9', overflow: 'auto', p: 1.5, background: roles.sunken, fontSize: 11 }}>
            <Box sx={{ fontWeight: 600, color: roles.redText }}>This Bead cannot read this scene.</Box>
            <Box sx={{ overflowWrap: 'anywhere' }}>{card.unreadable}</Box>
          </Box>
        ) : (
          <Box
            component="img"
            src={pictureUrl(card.id, card.revision, theme)}
            alt=""
            sx={{ display: 'block', width: '100%', aspectRatio: '16 / 9', background: roles.sunken }}
          />
        )}
        <Box sx={{ px: 1.5, py: 1.25, pr: 5 }}>
          <Box sx={{ typography: 'h3', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            {card.name}
          </Box>
          <Box sx={{ color: roles.secondary, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            {card.unreadable ? 'It can be saved as a file' : card.rigs.join(', ') || 'No rig yet'}
          </Box>
          <Box sx={{ color: roles.secondary, fontSize: 11, mt: 0.25 }}>
            {card.unreadable ? '' : `${card.frames} frames · `}
            {when(card.touched)}
          </Box>
        </Box>
      </Box>
      <IconButton
        aria-label={`More for ${card.name}`}
        onClick={(e) => setMenu(e.currentTarget)}
        sx={{ position: 'absolute', right: 6, bottom: 30, width: 28, height: 28 }}
      >
        <MoreHoriz sx={{ fontSize: 18 }} />
      </IconButton>
      <Menu anchorEl={menu} open={!!menu} onClose={() => setMenu(null)} onClick={() => setMenu(null)}>
        {!card.unreadable && <MenuItem onClick={onCopy}>Copy</MenuItem>}
        <MenuItem component="a" href={documentUrl(card.id)} download>
          Save the document
        </MenuItem>
        <MenuItem onClick={onDelete}>Delete</MenuItem>
      </Menu>
    </Box>
  )
}

function when(iso: string): string {
  const then = new Date(iso)
  const minutes = (Date.now() - then.getTime()) / 60000
  if (minutes < 1) return 'touched just now'
  if (minutes < 60) return `touched ${Math.round(minutes)} min ago`
  if (minutes < 60 * 20) return `touched ${Math.round(minutes / 60)} h ago`
  return `touched ${then.toLocaleDateString()}`
}
