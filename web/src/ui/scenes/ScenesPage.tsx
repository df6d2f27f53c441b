import Contrast from '@mui/icons-material/Contrast'
import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogTitle from '@mui/material/DialogTitle'
import IconButton from '@mui/material/IconButton'
import { useTheme } from '@mui/material/styles'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import {
  aboutQuery,
  beginScene,
  copyScene,
  createScene,
  deleteScene,
  keepScene,
  pictureUrl,
  renameScene,
  scenesQuery,
  takeDocument,
} from '../../api/client'
import type { SceneCard, Starter } from '../../core/page.generated'
import { addPath, documentVersion } from '../../core/value'
import { usePrefs } from '../../stores/prefs'
import type { Document } from '../../core/page.generated'
import {
  BodyIcon,
  CableIcon,
  ChainIcon,
  ClothIcon,
  CurveIcon,
  DrumIcon,
  FigureIcon,
  LoopIcon,
  Mark,
  RollIcon,
  SlabsIcon,
  TrainIcon,
  WalkerIcon,
} from '../../look/icons'
import { Pick } from '../fields/fields'
import { Card } from './Card'
import { StarterDialog } from './StarterDialog'
import { Unsaved } from './Unsaved'
import { readFigure, sendFigure } from '../rack/ImportFigure'
import { readMesh, standMesh } from '../rack/ImportMesh'
import { useImport } from '../rack/ImportPaths'

const starterIcons: Record<string, React.ReactNode> = {
  cable: <CableIcon />,
  creature: <BodyIcon />,
  walker: <WalkerIcon />,
  tread: <LoopIcon />,
  chain: <ChainIcon />,
  run: <SlabsIcon />,
  roll: <RollIcon />,
  figure: <FigureIcon />,
  winch: <DrumIcon />,
  cloth: <ClothIcon />,
  row: <TrainIcon />,
  empty: <CurveIcon />,
}

type Order = 'touched' | 'name' | 'frames'

/** Cards come last touched first. */
function sorted(list: SceneCard[], by: Order): SceneCard[] {
  if (by === 'name') return [...list].sort((a, b) => a.name.localeCompare(b.name))
  return by === 'frames' ? [...list].sort((a, b) => b.frames - a.frames) : list
}

/** Scenes as cards, starters by job, and files dropped anywhere. */
export function ScenesPage() {
  const { roles, palette } = useTheme()
  const navigate = useNavigate()
  const client = useQueryClient()
  const scenes = useQuery(scenesQuery)
  const about = useQuery(aboutQuery)
  // Edits that an earlier visit left are sent again; those still here are said.
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
  const keep = useMutation({
    mutationFn: (s: SceneCard) => keepScene(s.id, !s.beginning),
    onSuccess: renew,
    onError: say,
  })
  const begin = useMutation({ mutationFn: beginScene, onSuccess: (s) => navigate(`/scenes/${s.id}`), onError: say })
  const drop = useMutation({ mutationFn: deleteScene, onSuccess: renew, onError: say })
  const rename = useMutation({
    mutationFn: ({ card, name }: { card: SceneCard; name: string }) => renameScene(card.id, card.revision, name),
    onSuccess: renew,
    onError: say,
  })
  const [wanted, setWanted] = useState('')
  const [order, setOrder] = useState<Order>('touched')
  const shown = sorted(scenes.data ?? [], order).filter((s) =>
    [s.name, ...s.rigs].some((n) => n.toLowerCase().includes(wanted.trim().toLowerCase())),
  )

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
  const begins = {
    justifyContent: 'flex-start',
    textAlign: 'left',
    p: 1.5,
    gap: 1.5,
    borderColor: roles.border,
    background: roles.raised,
    '&:hover': { borderColor: roles.kelp, background: roles.tint },
  } as const
  const { input, load } = useImport(
    (file, paths) => {
      const doc = blank(file)
      for (const p of paths) addPath(doc, p.name, p.shape)
      bring.mutate(new Blob([JSON.stringify(doc)]))
    },
    setError,
    (file) =>
      void readMesh(file).then(
        (read) => {
          const doc = blank(file.name)
          standMesh(doc, read)
          bring.mutate(new Blob([JSON.stringify(doc)]))
        },
        (e: unknown) => setError(`${file.name}: ${e instanceof Error ? e.message : String(e)}`),
      ),
  )

  /** A figure goes along a weave in a scene of its own. */
  async function figure(file: File) {
    try {
      const doc = blank(file.name)
      sendFigure(doc, await readFigure(file))
      bring.mutate(new Blob([JSON.stringify(doc)]))
    } catch (e) {
      setError(`${file.name}: ${e instanceof Error ? e.message : String(e)}`)
    }
  }

  /** A scene document opens as a new scene; of a file of paths it is asked how they lie. */
  function take(file: File) {
    setError('')
    if (/\.json$/i.test(file.name)) bring.mutate(file)
    else if (/\.bvh$/i.test(file.name)) void figure(file)
    else if (/\.glb$/i.test(file.name)) void glb(file)
    else void load(file, false)
  }

  /** One that Bead wrote is opened as a scene of its parts, materials and paths; others are brought in. */
  async function glb(file: File) {
    const head = new TextDecoder('latin1').decode(await file.slice(0, 300).arrayBuffer())
    if (head.includes('"generator":"Bead"')) bring.mutate(file)
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
        <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(252px, 1fr))', gap: 2, mb: 4 }}>
          {about.data?.starters.map((s) => (
            <Button
              key={s.id}
              variant="outlined"
              color="inherit"
              disabled={start.isPending}
              onClick={() => (s.questions?.length ? setAsking(s) : start.mutate({ starter: s.id }))}
              sx={begins}
            >
              <Box sx={{ color: roles.kelp, display: 'flex', '& svg': { fontSize: 26 } }}>{starterIcons[s.id]}</Box>
              <Box>
                <Box sx={{ typography: 'h3' }}>{s.name}</Box>
                <Box sx={{ color: roles.secondary, fontWeight: 400 }}>{s.text}</Box>
              </Box>
            </Button>
          ))}
          {scenes.data
            ?.filter((s) => s.beginning)
            .map((s) => (
              <Button
                key={s.id}
                variant="outlined"
                color="inherit"
                disabled={begin.isPending}
                onClick={() => begin.mutate(s.id)}
                sx={begins}
              >
                <Box
                  component="img"
                  src={pictureUrl(s.id, s.revision)}
                  alt=""
                  sx={{ width: 56, aspectRatio: '16 / 9', background: roles.sunken, borderRadius: '4px' }}
                />
                <Box sx={{ minWidth: 0 }}>
                  <Box sx={{ typography: 'h3', overflow: 'hidden', textOverflow: 'ellipsis' }}>{s.name}</Box>
                  <Box sx={{ color: roles.secondary, fontWeight: 400 }}>A beginning of your own</Box>
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
            Drop a file anywhere, or choose one: a scene document, a GLB from Bead, paths as SVG, CSV, OBJ or glTF
            lines, a mesh as OBJ or glTF, a figure as BVH
          </Button>
          <input
            ref={pick}
            hidden
            type="file"
            accept=".json,.svg,.csv,.tsv,.txt,.obj,.glb,.gltf,.bvh"
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
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, mb: 1.5, flexWrap: 'wrap' }}>
          <Box component="h2" sx={{ typography: 'h2', m: 0, flex: 1 }}>
            Scenes
          </Box>
          {(scenes.data?.length ?? 0) > 1 && (
            <>
              <Box
                component="input"
                type="search"
                aria-label="Search the scenes"
                placeholder="Search by name or rig"
                value={wanted}
                onChange={(e: React.ChangeEvent<HTMLInputElement>) => setWanted(e.target.value)}
                sx={{
                  height: 28,
                  width: 200,
                  px: 1,
                  border: `1px solid ${roles.border}`,
                  borderRadius: '6px',
                  background: roles.raised,
                  color: roles.ink,
                  font: 'inherit',
                }}
              />
              <Box sx={{ width: 170 }}>
                <Pick
                  hideLabel
                  label="Order of the scenes"
                  value={order}
                  options={['touched', 'name', 'frames'] as const}
                  names={{ touched: 'last touched first', name: 'by name', frames: 'longest first' }}
                  onChange={setOrder}
                />
              </Box>
            </>
          )}
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
          {shown.map((s) => (
            <Card
              key={s.id}
              card={s}
              onRename={(name) => rename.mutate({ card: s, name })}
              onCopy={() => copy.mutate(s.id)}
              onKeep={() => keep.mutate(s)}
              onDelete={() => setDoomed(s)}
            />
          ))}
        </Box>
        {wanted && shown.length === 0 && (
          <Box sx={{ color: roles.secondary }}>No scene and no rig has “{wanted}” in its name.</Box>
        )}
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
