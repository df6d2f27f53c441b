import Add from '@mui/icons-material/Add'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { useEffect, useRef, useState } from 'react'
import type { Document } from '../../core/page.generated'
import { addCarrier, addMaterial, addPart, addTug } from '../../core/add'
import { isLoop, newParts, newPaths, palette } from '../../core/forms'
import { addPath, drawnPath } from '../../core/value'
import { listOf } from '../../core/remove'
import { useBench, type Kind, type Selection } from '../../stores/bench'
import { openMenu } from '../../stores/menu'
import { useView } from '../../stores/prefs'
import { CameraIcon, CarrierIcon, CurveIcon, LoopIcon, MeshIcon, PostIcon, TugIcon } from '../../look/icons'
import { countPoints } from '../recipe/CarrierFields'
import { Swatch } from '../recipe/MaterialPick'
import { addCamera, type Eye } from '../../core/camera'
import { presentEye } from '../../scene/presentEye'
import { fov } from '../../scene/lens'
import { AddMenu, type Addable } from './AddMenu'
import { addFixture } from '../../core/imports'
import { useFigureImport } from './ImportFigure'
import { useMeshImport } from './ImportMesh'
import { renameThing } from '../things'
import { useImport } from './ImportPaths'
import { partIcon } from './signs'
import { onto, type AddContext, type AddKind } from '../kinds/kind'
import { kindIn, kinds } from '../kinds/kinds'

/** How a camera looks that is made before the view is. */
const corner: Eye = { at: [6, 4, 6], ahead: [-6, -4, -6], up: [0, 1, 0], target: [0, 0, 0] }

/** What the history says of a new thing of this name. */
const adding = (name: string) => `add ${/^[aeiou]/i.test(name) ? 'an' : 'a'} ${name.toLowerCase()}`

/** The menu's line of a kind of rig. */
function rigItem(k: AddKind, made: (kind: Kind, label: string, make: (d: Document) => string) => void): Addable {
  return {
    group: 'Rig',
    name: k.name,
    picture: k.picture,
    wants: k.on ? undefined : k.wants,
    add: () =>
      made('rig', k.label, (d) =>
        k.make(
          d,
          d.paths.find((p) => p.id === k.on!.id)!,
        ),
      ),
  }
}

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

/** With more things than this the rack can be searched. */
const searchable = 12

/** Puts a thing in the place of another of its kind, which moves on. */
function reorder(kind: Kind, id: string, to: string) {
  if (id === to) return
  useBench.getState().edit('reorder the rack', (d) => {
    const list = listOf(d, kind)
    const from = list.findIndex((x) => x.id === id)
    const at = list.findIndex((x) => x.id === to)
    list.splice(at, 0, ...list.splice(from, 1))
  })
}

/** What the scene holds, and what can be added to it. */
export function Rack() {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)
  const selected = useBench((b) => b.selected)
  const panel = useBench((b) => b.panel)
  const select = useBench((b) => b.select)
  const edit = useBench((b) => b.edit)
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  const [dragged, setDragged] = useState<Selection | null>(null)
  const [find, setFind] = useState('')
  const also = useBench((b) => b.also)
  const choose = useBench((b) => b.choose)
  const mesh = useMeshImport()
  const figure = useFigureImport()
  const {
    input,
    choose: fromFile,
    load,
  } = useImport(
    (file, paths) => {
      let last = ''
      edit(`read ${file}`, (d) => paths.forEach((p) => (last = addPath(d, p.name, p.shape))))
      useView.getState().lookSoon()
      select({ kind: 'path', id: last })
    },
    useBench.getState().say,
    (file) => void mesh.load(file),
  )
  // Files dropped anywhere on the bench come in as paths or as a mesh.
  useEffect(() => {
    const over = (e: DragEvent) => e.preventDefault()
    const drop = (e: DragEvent) => {
      e.preventDefault()
      const file = e.dataTransfer?.files[0]
      if (file && /\.json$/i.test(file.name)) {
        useBench.getState().say('A scene document opens as a scene of its own: drop it on the scenes page.')
      } else if (file && /\.bvh$/i.test(file.name)) void figure.load(file)
      else if (file) void load(file, false)
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
    let id = ''
    edit(label, (d) => void (id = make(d)))
    select({ kind, id })
    useBench.setState({
      openStep:
        kind === 'rig' ? kindIn(useBench.getState().doc!.rigs.find((r) => r.id === id) ?? doc.rigs[0]!).opens : 'path',
    })
    if (kind === 'path' || kind === 'fixture') useView.getState().lookSoon()
  }
  // On the chosen path, or that of the chosen rig, or the last one.
  const chosenPath =
    selected?.kind === 'rig'
      ? doc.rigs.find((r) => r.id === selected.id)?.path
      : selected?.kind === 'path' && selected.id
  const onPath = doc.paths.find((p) => p.id === chosenPath) ?? doc.paths.at(-1)
  const held = [onPath, ...doc.paths].filter((p) => p && countPoints(doc, p.id) > 0)
  const tuggable = held[0]
  const from = doc.rigs.find((r) => r.id === selected?.id) ?? doc.rigs[0]
  const within: AddContext = {
    doc,
    path: onPath,
    length: onPath && useBench.getState().answer?.readout.paths[doc.paths.indexOf(onPath)]?.length,
    part: selected?.kind === 'part' ? selected.id : undefined,
  }
  const items: Addable[] = [
    { group: 'Path', name: 'Draw by clicking', picture: 'draw', add: () => useBench.getState().startDrawing() },
    ...newPaths.map(([name, shape]) => ({
      group: 'Path',
      name,
      picture: Object.keys(shape)[0]!,
      add: () => made('path', adding(name), (d) => addPath(d, name, shape)),
    })),
    { group: 'Path', name: 'From a file: SVG, CSV, OBJ or glTF lines', picture: 'file', add: fromFile },
    {
      group: 'Path',
      name: from ? `Track of a piece of ${from.name}` : 'Track of a piece',
      picture: 'track',
      wants: from ? undefined : 'Make a rig first',
      add: () => made('path', 'add a track', (d) => addPath(d, 'Track', { track: { rig: from!.id, piece: 1 } })),
    },
    ...newParts.map(([name, shape]) => ({
      group: 'Part',
      name,
      picture: Object.keys(shape)[0]!,
      add: () => made('part', adding(name), (d) => addPart(d, name, shape)),
    })),
    {
      group: 'Part',
      name: 'Material that parts are made of',
      picture: 'material',
      add: () =>
        made('material', 'add a material', (d) => {
          const id = addMaterial(d, { ...palette.find((m) => m.id === 'paint')!, name: 'Material' })
          const part = d.parts.find((p) => selected?.kind === 'part' && p.id === selected.id)
          if (part) part.material = id
          return id
        }),
    },
    ...Object.values(kinds).flatMap((k) => (k.add ? [rigItem(k.add(within), made)] : [])),
    {
      group: 'Rig',
      name: `Figure with its cycle from a file${onto(onPath)}: BVH, glTF`,
      picture: 'figure',
      add: figure.choose,
    },
    {
      group: 'Fixture, to lay paths on',
      name: 'Post',
      picture: 'post',
      add: () =>
        made('fixture', 'add a post', (d) => {
          const part = addPart(d, 'Post', { post: { radius: 0.2, height: 2 } })
          return addFixture(d, 'Post', part)
        }),
    },
    { group: 'Fixture, to lay paths on', name: 'Mesh from a file: OBJ, glTF', picture: 'mesh', add: mesh.choose },
    {
      group: 'What moves',
      name: 'Carrier: a frame that others ride on',
      picture: 'carrier',
      add: () => made('carrier', 'add a carrier', addCarrier),
    },
    {
      group: 'What moves',
      name: tuggable ? `Handle that pulls points of ${tuggable.name}` : 'Handle that pulls points',
      picture: 'tug',
      wants: tuggable ? undefined : 'Needs a path with points of its own',
      add: () => made('tug', 'add a handle', (d) => addTug(d, tuggable!.id, (useBench.getState().point ?? 0) + 1)),
    },
  ]
  items.push({
    group: 'What moves',
    name: 'Camera that looks as the view does',
    picture: 'camera',
    add: () =>
      made('camera', 'add a camera', (d) => {
        const eye = presentEye()
        return addCamera(d, eye ?? corner, fov)
      }),
  })
  const rows: [string, Kind, { id: string; name: string; icon: React.ReactNode }[]][] = [
    [
      'Paths',
      'path',
      doc.paths
        .filter((p) => p.id !== drawnPath)
        .map((p) => ({
          ...p,
          icon: isLoop(p.shape) ? <LoopIcon /> : <CurveIcon />,
        })),
    ],
    ['Parts', 'part', doc.parts.map((p) => ({ ...p, icon: partIcon(p.shape) }))],
    ...((doc.materials?.length ?? 0) > 0
      ? [
          [
            'Materials',
            'material',
            doc.materials!.map((m) => ({ id: m.id, name: m.name, icon: <Swatch of={m} /> })),
          ] as [string, Kind, { id: string; name: string; icon: React.ReactNode }[]],
        ]
      : []),
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
        icon: kindIn(r).sign,
      })),
    ],
    ...((doc.carriers?.length ?? 0) > 0
      ? [['Carriers', 'carrier', doc.carriers!.map((c) => ({ ...c, icon: <CarrierIcon /> }))] as (typeof rows)[number]]
      : []),
    ...((doc.cameras?.length ?? 0) > 0
      ? [['Cameras', 'camera', doc.cameras!.map((c) => ({ ...c, icon: <CameraIcon /> }))] as (typeof rows)[number]]
      : []),
    ...((doc.tugs?.length ?? 0) > 0
      ? [['Handles', 'tug', doc.tugs!.map((t) => ({ ...t, icon: <TugIcon /> }))] as (typeof rows)[number]]
      : []),
  ]
  const total = rows.reduce((n, [, , items]) => n + items.length, 0)
  const found = total > searchable && find.trim().toLowerCase()
  const seen = rows
    .map(([label, kind, items]): (typeof rows)[number] => [
      label,
      kind,
      found ? items.filter((x) => x.name.toLowerCase().includes(found)) : items,
    ])
    .filter(([, , items]) => !found || items.length > 0)
  return (
    <Box
      component="section"
      aria-label="Rack"
      sx={{
        px: 2,
        pb: 1.25,
        borderBottom: `1px solid ${roles.rule}`,
        flexShrink: 0,
        maxHeight: '39%',
        overflow: 'auto',
        scrollPaddingTop: '36px', // what is focused comes out below the head
      }}
    >
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          height: 32,
          pt: 1,
          mb: 0.25,
          position: 'sticky',
          top: 0,
          zIndex: 1,
          background: roles.paper,
        }}
      >
        <Box component="h2" sx={{ typography: 'h3', m: 0, flex: 1 }}>
          Rack
        </Box>
        {total > searchable && (
          <Box
            component="input"
            type="search"
            value={find}
            placeholder="Find"
            aria-label="Find in the rack"
            onChange={(e: React.ChangeEvent<HTMLInputElement>) => setFind(e.target.value)}
            sx={{
              width: 'min(92px, 34%)',
              height: 22,
              mr: 1,
              px: 0.75,
              font: "400 12px/16px 'IBM Plex Sans', sans-serif",
              color: roles.ink,
              background: roles.raised,
              border: `1px solid ${roles.border}`,
              borderRadius: '6px',
            }}
          />
        )}
        <Button
          ref={add}
          startIcon={<Add sx={{ fontSize: '16px !important' }} />}
          onClick={(e) => setMenu(e.currentTarget)}
          sx={{ minHeight: 24, px: 0.75, color: roles.kelpText, '& .MuiButton-startIcon': { mr: 0.25 } }}
        >
          Add
        </Button>
      </Box>
      {found && seen.length === 0 && <Box sx={{ color: roles.secondary }}>Nothing has “{find}” in its name.</Box>}
      {seen.map(([label, kind, items]) => (
        <Box key={label} sx={{ display: 'grid', gridTemplateColumns: '54px 1fr', alignItems: 'start', minHeight: 26 }}>
          <Box sx={{ color: roles.secondary, lineHeight: '26px' }}>{label}</Box>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 0.25 }}>
            {items.length === 0 && (
              <Box sx={{ lineHeight: '28px', color: roles.secondary, px: 1, fontStyle: 'italic' }}>none yet</Box>
            )}
            {items.map((it) => {
              const on = selected?.kind === kind && (selected.id === it.id || also.includes(it.id))
              return (
                <Button
                  key={it.id}
                  startIcon={it.icon}
                  aria-pressed={on}
                  onClick={(e) => (e.ctrlKey || e.metaKey || e.shiftKey ? choose : select)({ kind, id: it.id })}
                  draggable={!found}
                  onDragStart={(e) => {
                    e.dataTransfer.setData('text/plain', it.name)
                    e.dataTransfer.effectAllowed = 'move'
                    setDragged({ kind, id: it.id })
                  }}
                  onDragEnd={() => setDragged(null)}
                  onDragOver={(e) => {
                    if (dragged?.kind !== kind) return
                    e.preventDefault()
                    e.dataTransfer.dropEffect = 'move'
                  }}
                  onDrop={(e) => {
                    if (dragged?.kind !== kind) return
                    e.preventDefault()
                    e.stopPropagation()
                    reorder(kind, dragged.id, it.id)
                  }}
                  onDoubleClick={() => renameThing({ kind, id: it.id })}
                  onContextMenu={(e) => openMenu({ kind, id: it.id }, e)}
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
      <AddMenu anchor={menu} items={items} onClose={() => setMenu(null)} />
      {input}
      {mesh.input}
      {figure.input}
    </Box>
  )
}
