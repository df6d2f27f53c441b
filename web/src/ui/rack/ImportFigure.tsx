import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import { readFigureFile } from '../../api/client'
import { addCycle } from '../../core/add'
import { dressPart, unitsOfLength, type LengthUnit } from '../../core/imports'
import type { Document, ReadFigure, ReadMaterial } from '../../core/page.generated'
import { showWithUnit } from '../../core/units'
import { addPath, freeId, freeName } from '../../core/value'
import { useBench } from '../../stores/bench'
import { useView } from '../../stores/prefs'
import { Choice, Figure, Pair, Pick } from '../fields/fields'
import { JointTree } from '../recipe/JointTree'
import { materialsWith } from './ImportMesh'
import { useFile } from './useFile'

const axes = ['+x', '-x', '+y', '-y', '+z', '-z'] as const
type Axis = (typeof axes)[number]

/** A figure that was read, with the materials of its file. */
interface FigureRead extends ReadFigure {
  materials: ReadMaterial[]
}

/** Reads a figure, with the materials that lie in its file; ones that cannot be read do not hold it up. */
export async function readFigure(file: File): Promise<FigureRead> {
  const read = await readFigureFile(file)
  return { ...read, materials: await materialsWith(file, 'figure') }
}

/** Puts a figure that the server has read into a document as a part; returns its id. */
function addFigurePart(d: Document, read: FigureRead, scale: number, forward: Axis, up: Axis): string {
  const stem = read.name.replace(/\.[^.]+$/, '').slice(0, 55) || 'Figure'
  const name = stem[0]!.toUpperCase() + stem.slice(1)
  const id = freeId(d.parts, name)
  const axis = 'xyz'.indexOf(up[1]!)
  const pivot: [number, number, number] = [0, 0, 0]
  pivot[axis] = Number((read.figure.floor * (up[0] === '-' ? -1 : 1)).toPrecision(9)) || 0
  d.parts.push({
    id,
    name: freeName(d.parts, name),
    shape: { figure: { asset: read.asset, scale } },
    forward,
    up,
    pivot,
  })
  dressPart(d, id, read.materials)
  return id
}

/**
 * Puts a figure into a document and sends it along one of its paths, or along a new weave; returns its
 * rig's id. What is not said is as it was found.
 */
export function sendFigure(
  d: Document,
  read: FigureRead,
  how: { scale?: number; forward?: Axis; up?: Axis; path?: string } = {},
): string {
  const { figure } = read
  const scale = how.scale ?? unitsOfLength[figure.unit as LengthUnit]
  const part = addFigurePart(d, read, scale, how.forward ?? (figure.forward as Axis), how.up ?? (figure.up as Axis))
  const goes = figure.goes * scale
  const long = Number(Math.max(8 * goes, 4 * sizeOf(read) * scale).toPrecision(2))
  const way = d.paths.find((p) => p.id === how.path)
  const to =
    way?.id ??
    addPath(d, 'Weave', {
      weave: { from: [0, 0, 0], length: long, width: Number((long / 6).toPrecision(2)), bends: 2 },
    })
  if (!way) d.plays = 'once' // an open way comes to its end
  return addCycle(
    d,
    d.paths.find((p) => p.id === to)!,
    part,
    onTheSpot(read) ? 0 : goes / figure.seconds,
  )
}

const sizeOf = ({ figure }: ReadFigure) => Math.max(...figure.max.map((x, i) => x - figure.min[i]!))

/** A figure that goes less than a hundredth of its size has to be told its stride. */
const onTheSpot = (read: ReadFigure) => read.figure.goes < 0.01 * sizeOf(read)

/** Reads figures with their motion from files: how they stand and go is proposed. */
export const useFigureImport = () =>
  useFile('.bvh,.glb,.gltf', 'import-figure', readFigure, (read, close) => (
    <FigureDialog key={read.asset} read={read} close={close} />
  ))

function FigureDialog({ read, close }: { read: FigureRead; close: () => void }) {
  const { roles } = useTheme()
  const { figure, name } = read
  const doc = useBench((b) => b.doc)!
  const selected = useBench((b) => b.selected)
  const [unit, setUnit] = useState<LengthUnit>(figure.unit as LengthUnit)
  const [forward, setForward] = useState<Axis>(figure.forward as Axis)
  const [up, setUp] = useState(figure.up as Axis)
  const chosen = doc.paths.find((p) => selected?.kind === 'path' && p.id === selected.id) ?? doc.paths[0]
  const [path, setPath] = useState(chosen?.id ?? '')
  const s = (v: number) => showWithUnit(v * unitsOfLength[unit], 'distance', doc.units ?? 'mm')
  const size = figure.max.map((x, i) => x - figure.min[i]!)
  const spot = onTheSpot(read)
  const bench = useBench.getState()
  const askew = forward[1] === up[1]
  const send = () => {
    close()
    let id = ''
    bench.edit(
      `send ${name} along a path`,
      (d) => void (id = sendFigure(d, read, { scale: unitsOfLength[unit], forward, up, path })),
    )
    useView.getState().lookSoon()
    bench.select({ kind: 'rig', id })
    useBench.setState({ openStep: 'cycle' })
  }
  const asPart = () => {
    close()
    let id = ''
    bench.edit(`read ${name} as a part`, (d) => void (id = addFigurePart(d, read, unitsOfLength[unit], forward, up)))
    bench.select({ kind: 'part', id })
  }
  return (
    <Dialog open onClose={close} maxWidth="xs" fullWidth>
      <DialogTitle sx={{ typography: 'h2' }}>Figure of {name}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.25 }}>
        <Figure label="Size" value={size.map(s).join(' × ')} word={figure.skinned ? 'with its mesh' : 'bones'} />
        <Figure label="Its motion" value={`${figure.keys} keys`} word={`a round of ${figure.seconds.toFixed(2)} s`} />
        <Figure
          label="Goes"
          value={spot ? 'on the spot' : s(figure.goes)}
          word={spot ? 'say its stride then' : `a round, along ${figure.forward}`}
          tone={spot ? 'bad' : 'good'}
        />
        <Choice
          label="One unit of the file is"
          value={unit}
          options={['m', 'cm', 'mm', 'in'] as const}
          onChange={(v) => setUnit(v)}
        />
        <Pair>
          <Pick
            label="Goes along its"
            value={forward}
            options={axes}
            names={{ [figure.forward]: `${figure.forward}, as found` }}
            onChange={setForward}
          />
          <Pick
            label="Its up is"
            value={up}
            options={axes}
            names={{ [figure.up]: `${figure.up}, as found` }}
            onChange={setUp}
          />
        </Pair>
        {askew && (
          <Box role="alert" sx={{ fontSize: 11, color: roles.redText }}>
            Up lies along the way that it goes: one of the other four is accepted.
          </Box>
        )}
        <Pick
          label="Send it along"
          value={path}
          options={['', ...doc.paths.map((p) => p.id)]}
          names={{ '': 'a new weave', ...Object.fromEntries(doc.paths.map((p) => [p.id, p.name])) }}
          onChange={setPath}
        />
        <JointTree joints={figure.joints} />
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={close}>
          Cancel
        </Button>
        <Button variant="outlined" disabled={askew} onClick={asPart}>
          Take it as a part
        </Button>
        <Button variant="contained" disabled={askew} onClick={send}>
          Send it along
        </Button>
      </DialogActions>
    </Dialog>
  )
}
