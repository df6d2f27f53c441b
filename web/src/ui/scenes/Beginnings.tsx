import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { useRef } from 'react'
import { pictureUrl } from '../../api/client'
import type { SceneCard, Starter } from '../../core/page.generated'
import {
  BodyIcon,
  CableIcon,
  ChainIcon,
  ClothIcon,
  CurveIcon,
  DrumIcon,
  FigureIcon,
  LoopIcon,
  RollIcon,
  SlabsIcon,
  TrainIcon,
  WalkerIcon,
} from '../../look/icons'

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

/** Starters by job, the scenes that are kept as beginnings, and a file. */
export function Beginnings({
  starters,
  own,
  busy,
  onStart,
  onBegin,
  onFile,
}: {
  starters: readonly Starter[]
  own: readonly SceneCard[]
  busy: boolean
  onStart: (s: Starter) => void
  onBegin: (id: string) => void
  onFile: (f: File) => void
}) {
  const { roles } = useTheme()
  const pick = useRef<HTMLInputElement>(null)
  const begins = {
    justifyContent: 'flex-start',
    textAlign: 'left',
    p: 1.5,
    gap: 1.5,
    borderColor: roles.border,
    background: roles.raised,
    '&:hover': { borderColor: roles.kelp, background: roles.tint },
  } as const
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(252px, 1fr))', gap: 2, mb: 4 }}>
      {starters.map((s) => (
        <Button key={s.id} variant="outlined" color="inherit" disabled={busy} onClick={() => onStart(s)} sx={begins}>
          <Box sx={{ color: roles.kelp, display: 'flex', '& svg': { fontSize: 26 } }}>{starterIcons[s.id]}</Box>
          <Box>
            <Box sx={{ typography: 'h3' }}>{s.name}</Box>
            <Box sx={{ color: roles.secondary, fontWeight: 400 }}>{s.text}</Box>
          </Box>
        </Button>
      ))}
      {own.map((s) => (
        <Button key={s.id} variant="outlined" color="inherit" disabled={busy} onClick={() => onBegin(s.id)} sx={begins}>
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
        Drop a file anywhere, or choose one: a scene document, a GLB from Bead, paths as SVG, CSV, OBJ or glTF lines, a
        mesh as OBJ or glTF, a figure as BVH
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
          if (file) onFile(file)
        }}
      />
    </Box>
  )
}
