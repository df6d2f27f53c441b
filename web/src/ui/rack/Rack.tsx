import Add from '@mui/icons-material/Add'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Divider from '@mui/material/Divider'
import ListSubheader from '@mui/material/ListSubheader'
import Menu from '@mui/material/Menu'
import MenuItem from '@mui/material/MenuItem'
import { useTheme } from '@mui/material/styles'
import { useEffect, useRef, useState } from 'react'
import type { Document, PartShape } from '../../core/page.generated'
import { addBody, addCarrier, addPart, addRider, addTrain, addTug } from '../../core/add'
import { isLoop, newParts, newPaths } from '../../core/forms'
import { addPath } from '../../core/value'
import { useBench, type Kind } from '../../stores/bench'
import { useView } from '../../stores/prefs'
import {
  BodyIcon,
  BoxIcon,
  CarrierIcon,
  CurveIcon,
  FloatIcon,
  LoopIcon,
  MeshIcon,
  PostIcon,
  RiderIcon,
  ShoeIcon,
  TrainIcon,
  TugIcon,
} from '../../look/icons'
import { countPoints } from '../recipe/CarrierFields'
import { addFixture, takeMeshFile, useMeshImport } from './ImportMesh'
import { renameThing } from '../things'
import { useImport } from './ImportPaths'

/** What the history says of a new thing of this name. */
const adding = (name: string) => `add ${/^[aeiou]/i.test(name) ? 'an' : 'a'} ${name.toLowerCase()}`

/** The ground in a few words. */
function groundName(d: Document): string {
  const g = d.ground
  const said = [
    g?.points?.length ? `${g.points.length} points` : '',
    g?.humps?.length ? (g.humps.length === 1 ? 'a hump' : `${g.humps.length} humps`) : '',
    g?.rough ? 'rough' : '',
  ].filter(Boolean)
  return said.length ? said.join(', ') : 'level'
}

const partIcon = (s: PartShape) =>
  s.shoe ? <ShoeIcon /> : s.box ? <BoxIcon /> : s.post ? <PostIcon /> : s.file ? <MeshIcon /> : <FloatIcon />

/** What the scene holds, and what can be added to it. */
export function Rack() {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)
  const selected = useBench((b) => b.selected)
  const panel = useBench((b) => b.panel)
  const select = useBench((b) => b.select)
  const edit = useBench((b) => b.edit)
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  const { input, choose, load } = useImport(
    (file, paths) => {
      let last = ''
      edit(`read ${file}`, (d) => paths.forEach((p) => (last = addPath(d, p.name, p.shape))))
      select({ kind: 'path', id: last })
    },
    useBench.getState().say,
    (file) => void takeMeshFile(file),
  )
  const mesh = useMeshImport()
  // Files dropped anywhere on the bench come in as paths or as a mesh.
  useEffect(() => {
    const over = (e: DragEvent) => e.preventDefault()
    const drop = (e: DragEvent) => {
      e.preventDefault()
      const file = e.dataTransfer?.files[0]
      if (file && /\.json$/i.test(file.name)) {
        useBench.getState().say('A scene document opens as a scene of its own: drop it on the scenes page.')
      } else if (file) void load(file, false)
    }
    window.addEventListener('dragover', over)
    window.addEventListener('drop', drop)
    return () => {
      window.removeEventListener('dragover', over)
      window.removeEventListener('drop', drop)
    }
  })
  const add = useRef<HTMLButtonElement>(null)
  if (!doc) return null

  const made = (kind: Kind, label: string, make: (d: Document) => string) => {
    setMenu(null)
    let id = ''
    edit(label, (d) => void (id = make(d)))
    select({ kind, id })
    useBench.setState({
      openStep:
        kind === 'rig' ? (label.endsWith('rider') ? 'lead' : label.endsWith('body') ? 'bend' : 'spacing') : 'path',
    })
    if (kind === 'path' || kind === 'fixture') useView.getState().lookSoon()
  }
  const onPath = doc.paths.find((p) => p.id === (selected?.kind === 'path' ? selected.id : '')) ?? doc.paths.at(-1)
  const held = [onPath, ...doc.paths].filter((p) => p && countPoints(doc, p.id) > 0)
  const tuggable = held[0]
  const rows: [string, Kind, { id: string; name: string; icon: React.ReactNode }[]][] = [
    [
      'Paths',
      'path',
      doc.paths.map((p) => ({
        ...p,
        icon: isLoop(p.shape) ? <LoopIcon /> : <CurveIcon />,
      })),
    ],
    ['Parts', 'part', doc.parts.map((p) => ({ ...p, icon: partIcon(p.shape) }))],
    ...((doc.fixtures?.length ?? 0) > 0
      ? [
          [
            'Fixtures',
            'fixture',
            doc.fixtures!.map((f) => ({
              ...f,
              icon: doc.parts.find((p) => p.id === f.part)?.shape.post ? <PostIcon /> : <MeshIcon />,
            })),
          ] as [string, Kind, { id: string; name: string; icon: React.ReactNode }[]],
        ]
      : []),
    [
      'Rigs',
      'rig',
      doc.rigs.map((r) => ({
        ...r,
        icon: r.rider ? <RiderIcon /> : r.body ? <BodyIcon /> : <TrainIcon />,
      })),
    ],
    ...((doc.carriers?.length ?? 0) > 0
      ? [['Carriers', 'carrier', doc.carriers!.map((c) => ({ ...c, icon: <CarrierIcon /> }))] as (typeof rows)[number]]
      : []),
    ...((doc.tugs?.length ?? 0) > 0
      ? [['Handles', 'tug', doc.tugs!.map((t) => ({ ...t, icon: <TugIcon /> }))] as (typeof rows)[number]]
      : []),
  ]
  return (
    <Box
      component="section"
      aria-label="Rack"
      sx={{
        px: 2,
        pt: 1,
        pb: 1.25,
        borderBottom: `1px solid ${roles.rule}`,
        flexShrink: 0,
        maxHeight: '39%',
        overflow: 'auto',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', height: 24, mb: 0.25 }}>
        <Box component="h2" sx={{ typography: 'h3', m: 0, flex: 1 }}>
          Rack
        </Box>
        <Button
          ref={add}
          startIcon={<Add sx={{ fontSize: '16px !important' }} />}
          onClick={(e) => setMenu(e.currentTarget)}
          sx={{ minHeight: 24, px: 0.75, color: roles.kelpText, '& .MuiButton-startIcon': { mr: 0.25 } }}
        >
          Add
        </Button>
      </Box>
      {rows.map(([label, kind, items]) => (
        <Box key={label} sx={{ display: 'grid', gridTemplateColumns: '54px 1fr', alignItems: 'start', minHeight: 26 }}>
          <Box sx={{ color: roles.secondary, lineHeight: '26px' }}>{label}</Box>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 0.25 }}>
            {items.length === 0 && (
              <Box sx={{ lineHeight: '28px', color: roles.secondary, px: 1, fontStyle: 'italic' }}>none yet</Box>
            )}
            {items.map((it) => {
              const on = selected?.kind === kind && selected.id === it.id
              return (
                <Button
                  key={it.id}
                  startIcon={it.icon}
                  aria-pressed={on}
                  onClick={() => select({ kind, id: it.id })}
                  onDoubleClick={() => renameThing({ kind, id: it.id })}
                  onContextMenu={(e) => {
                    e.preventDefault()
                    select({ kind, id: it.id })
                    useView.setState({ menu: { thing: { kind, id: it.id }, x: e.clientX, y: e.clientY } })
                  }}
                  sx={{
                    minHeight: 24,
                    my: '1px',
                    px: 0.75,
                    maxWidth: 216,
                    color: on ? roles.kelpText : roles.ink,
                    fontWeight: on ? 600 : 400,
                    background: on ? roles.tint : 'transparent',
                    '& .MuiButton-startIcon': { mr: 0.6, ml: 0, color: on ? roles.kelpText : roles.slate },
                  }}
                >
                  <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
                    {it.name}
                  </Box>
                </Button>
              )
            })}
          </Box>
        </Box>
      ))}
      <Box sx={{ display: 'grid', gridTemplateColumns: '54px 1fr', alignItems: 'start', minHeight: 26 }}>
        <Box sx={{ color: roles.secondary, lineHeight: '26px' }}>Ground</Box>
        <Box>
          <Button
            aria-pressed={panel === 'ground'}
            onClick={() => useBench.setState({ panel: panel === 'ground' ? 'recipe' : 'ground' })}
            sx={{
              minHeight: 24,
              my: '1px',
              px: 0.75,
              color: panel === 'ground' ? roles.kelpText : roles.ink,
              background: panel === 'ground' ? roles.tint : 'transparent',
              fontWeight: panel === 'ground' ? 600 : 400,
            }}
          >
            {groundName(doc)}
          </Button>
        </Box>
      </Box>
      <Menu
        anchorEl={menu}
        open={!!menu}
        onClose={() => setMenu(null)}
        slotProps={{
          list: {
            dense: true,
            sx: { columnCount: 2, columnGap: 0, '& .MuiMenuItem-root': { minHeight: 25, py: '1px' } },
          },
        }}
      >
        <ListSubheader sx={{ lineHeight: '26px', fontSize: 11 }}>Path</ListSubheader>
        <MenuItem
          onClick={() => {
            setMenu(null)
            useBench.getState().startDrawing()
          }}
        >
          Draw by clicking
        </MenuItem>
        {newPaths.map(([name, shape]) => (
          <MenuItem key={name} onClick={() => made('path', adding(name), (d) => addPath(d, name, shape))}>
            {name}
          </MenuItem>
        ))}
        <MenuItem
          onClick={() => {
            setMenu(null)
            choose()
          }}
        >
          From a file: SVG, CSV, OBJ or glTF lines
        </MenuItem>
        {doc.rigs.length > 0 && (
          <MenuItem
            onClick={() =>
              made('path', 'add a track', (d) =>
                addPath(d, 'Track', {
                  track: { rig: (d.rigs.find((r) => r.id === selected?.id) ?? d.rigs[0]!).id, piece: 1 },
                }),
              )
            }
          >
            Track of a piece of {(doc.rigs.find((r) => r.id === selected?.id) ?? doc.rigs[0]!).name}
          </MenuItem>
        )}
        <Divider />
        <ListSubheader sx={{ lineHeight: '26px', fontSize: 11 }}>Part</ListSubheader>
        {newParts.map(([name, shape]) => (
          <MenuItem key={name} onClick={() => made('part', adding(name), (d) => addPart(d, name, shape))}>
            {name}
          </MenuItem>
        ))}
        <Divider />
        <ListSubheader sx={{ lineHeight: '26px', fontSize: 11 }}>Fixture, to lay paths on</ListSubheader>
        <MenuItem
          onClick={() =>
            made('fixture', 'add a post', (d) => {
              const part = addPart(d, 'Post', { post: { radius: 0.2, height: 2 } })
              return addFixture(d, 'Post', part)
            })
          }
        >
          Post
        </MenuItem>
        <MenuItem
          onClick={() => {
            setMenu(null)
            mesh.choose()
          }}
        >
          Mesh from a file: OBJ, glTF
        </MenuItem>
        <Divider />
        <ListSubheader sx={{ lineHeight: '26px', fontSize: 11 }}>Rig</ListSubheader>
        <MenuItem
          disabled={!onPath}
          onClick={() =>
            made('rig', 'add a train', (d) =>
              addTrain(
                d,
                d.paths.find((p) => p.id === onPath!.id)!,
                useBench.getState().answer?.readout.paths[doc.paths.indexOf(onPath!)]?.length,
              ),
            )
          }
        >
          {onPath ? `Pieces in a row on ${onPath.name}` : 'Pieces in a row (make a path first)'}
        </MenuItem>
        <MenuItem
          disabled={!onPath}
          onClick={() =>
            made('rig', 'add a body', (d) =>
              addBody(
                d,
                d.paths.find((p) => p.id === onPath!.id)!,
                selected?.kind === 'part' ? selected.id : undefined,
              ),
            )
          }
        >
          {onPath ? `Body that bends on ${onPath.name}` : 'Body that bends (make a path first)'}
        </MenuItem>
        <MenuItem
          disabled={!onPath}
          onClick={() =>
            made('rig', 'add a rider', (d) =>
              addRider(
                d,
                d.paths.find((p) => p.id === onPath!.id)!,
              ),
            )
          }
        >
          {onPath ? `Single rider on ${onPath.name}` : 'Single rider (make a path first)'}
        </MenuItem>
        <Divider />
        <ListSubheader sx={{ lineHeight: '26px', fontSize: 11 }}>What moves</ListSubheader>
        <MenuItem onClick={() => made('carrier', 'add a carrier', addCarrier)}>
          Carrier: a frame that others ride on
        </MenuItem>
        <MenuItem
          disabled={!tuggable}
          onClick={() =>
            made('tug', 'add a handle', (d) => addTug(d, tuggable!.id, (useBench.getState().point ?? 0) + 1))
          }
        >
          {tuggable ? `Handle that pulls points of ${tuggable.name}` : 'Handle (needs a path with points)'}
        </MenuItem>
      </Menu>
      {input}
      {mesh.input}
    </Box>
  )
}
