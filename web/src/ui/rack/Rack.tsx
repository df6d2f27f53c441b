import Add from '@mui/icons-material/Add'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useTheme } from '@mui/material/styles'
import { useEffect, useState } from 'react'
import type { Document } from '../../core/page.generated'
import { addPath } from '../../core/value'
import { useBench, type Selection } from '../../stores/bench'
import { useView } from '../../stores/prefs'
import { addables } from './addables'
import { AddMenu } from './AddMenu'
import { useFigureImport } from './ImportFigure'
import { useMeshImport } from './ImportMesh'
import { useImport } from './ImportPaths'
import { RackItem } from './RackItem'
import { rowsOf, rowsWith, type Row } from './rows'

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

/** What comes in from files: chosen in the menu, or dropped anywhere on the bench. */
function useFiles() {
  const mesh = useMeshImport()
  const figure = useFigureImport()
  const paths = useImport(
    (file, paths) => {
      let last = ''
      useBench.getState().edit(`read ${file}`, (d) => paths.forEach((p) => (last = addPath(d, p.name, p.shape))))
      useView.getState().lookSoon()
      useBench.getState().select({ kind: 'path', id: last })
    },
    useBench.getState().say,
    (file) => void mesh.load(file),
  )
  useEffect(() => {
    const over = (e: DragEvent) => e.preventDefault()
    const drop = (e: DragEvent) => {
      e.preventDefault()
      const file = e.dataTransfer?.files[0]
      if (file && /\.json$/i.test(file.name)) {
        useBench.getState().say('A scene document opens as a scene of its own: drop it on the scenes page.')
      } else if (file && /\.bvh$/i.test(file.name)) void figure.load(file)
      else if (file) void paths.load(file, false)
    }
    window.addEventListener('dragover', over)
    window.addEventListener('drop', drop)
    return () => {
      window.removeEventListener('dragover', over)
      window.removeEventListener('drop', drop)
    }
  })
  return {
    files: { paths: paths.choose, mesh: mesh.choose, figure: figure.choose },
    inputs: (
      <>
        {paths.input}
        {mesh.input}
        {figure.input}
      </>
    ),
  }
}

/** A label at the left, and what stands in its row. */
function RowOf({ label, children }: { label: string; children: React.ReactNode }) {
  const { roles } = useTheme()
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '54px 1fr', alignItems: 'start', minHeight: 26 }}>
      <Box sx={{ color: roles.secondary, lineHeight: '26px' }}>{label}</Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 0.25 }}>{children}</Box>
    </Box>
  )
}

function Things({ rows, draggable }: { rows: Row[]; draggable: boolean }) {
  const { roles } = useTheme()
  const [dragged, setDragged] = useState<Selection | null>(null)
  return rows.map(({ label, kind, items }) => (
    <RowOf key={label} label={label}>
      {items.length === 0 && (
        <Box sx={{ lineHeight: '28px', color: roles.secondary, px: 1, fontStyle: 'italic' }}>none yet</Box>
      )}
      {items.map((it) => (
        <RackItem key={it.id} kind={kind} item={it} draggable={draggable} dragged={dragged} onDrag={setDragged} />
      ))}
    </RowOf>
  ))
}

function Ground({ doc }: { doc: Document }) {
  const { roles } = useTheme()
  const on = useBench((b) => b.panel === 'ground')
  return (
    <RowOf label="Ground">
      <Button
        aria-pressed={on}
        onClick={() => useBench.setState({ panel: on ? 'recipe' : 'ground' })}
        sx={{
          minHeight: 24,
          my: '1px',
          px: 0.75,
          color: on ? roles.kelpText : roles.ink,
          background: on ? roles.tint : 'transparent',
          fontWeight: on ? 600 : 400,
        }}
      >
        {groundName(doc)}
      </Button>
    </RowOf>
  )
}

/** What the scene holds, and what can be added to it. */
export function Rack() {
  const { roles } = useTheme()
  const doc = useBench((b) => b.doc)
  const selected = useBench((b) => b.selected)
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  const [find, setFind] = useState('')
  const { files, inputs } = useFiles()
  if (!doc) return null
  const rows = rowsOf(doc)
  const total = rows.reduce((n, r) => n + r.items.length, 0)
  const found = total > searchable && find.trim().toLowerCase()
  const seen = found ? rowsWith(rows, found) : rows
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
          startIcon={<Add sx={{ fontSize: '16px !important' }} />}
          onClick={(e) => setMenu(e.currentTarget)}
          sx={{ minHeight: 24, px: 0.75, color: roles.kelpText, '& .MuiButton-startIcon': { mr: 0.25 } }}
        >
          Add
        </Button>
      </Box>
      {found && seen.length === 0 && <Box sx={{ color: roles.secondary }}>Nothing has “{find}” in its name.</Box>}
      <Things rows={seen} draggable={!found} />
      <Ground doc={doc} />
      <AddMenu anchor={menu} items={addables(doc, selected, files)} onClose={() => setMenu(null)} />
      {inputs}
    </Box>
  )
}
