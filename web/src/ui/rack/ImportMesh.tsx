import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { useTheme } from '@mui/material/styles'
import { useRef, useState } from 'react'
import { readMaterialsFile, readMeshFile, RequestError, sendImage } from '../../api/client'
import {
  addFixture,
  addMeshPart,
  dressPart,
  extents,
  guessUnit,
  longestAxis,
  unitsOfLength,
  type Forward,
  type LengthUnit,
} from '../../core/imports'
import type { Document, ReadMaterial, ReadMesh } from '../../core/page.generated'
import { showWithUnit } from '../../core/units'
import { useBench } from '../../stores/bench'
import { useView } from '../../stores/prefs'
import { Choice, Figure, Pick } from '../fields/fields'
import { useFile } from './useFile'

/** A mesh that was read and waits for how it is to come in. */
export interface MeshRead {
  file: string
  mesh: ReadMesh
  materials: ReadMaterial[]
}

/** Puts a mesh that the server has read into a document, standing; returns the fixture's id. */
export function standMesh(
  d: Document,
  { file, mesh, materials }: MeshRead,
  unit: LengthUnit = guessUnit(mesh, file),
  forward: Forward = longestAxis(mesh),
): string {
  const scale = unitsOfLength[unit]
  const part = addMeshPart(d, file, mesh, scale, forward)
  dressPart(d, part, materials)
  // Its up is y, or z where y is its forward.
  const up = forward === '+y' ? 2 : 1
  const foot = Number((-mesh.min[up] * scale).toPrecision(9)) || 0
  return addFixture(d, d.parts.find((p) => p.id === part)!.name, part, foot)
}

/** Reads a mesh, with the materials that lie in its file; ones that cannot be read do not hold it up. */
export async function readMesh(file: File): Promise<MeshRead> {
  const mesh = await readMeshFile(file)
  return { file: file.name, mesh, materials: await materialsWith(file, 'mesh') }
}

/** The materials that lie in the file of something that was read. */
export async function materialsWith(file: File, what: string): Promise<ReadMaterial[]> {
  if (!/\.(glb|gltf)$/i.test(file.name)) return []
  return readMaterialsFile(file).catch((e: unknown) => {
    useBench.getState().say(`${file.name}: the ${what} was read, its materials were not. ${(e as Error).message}`)
    return []
  })
}

export const useMeshImport = () =>
  useFile('.obj,.glb,.gltf', 'import-mesh', readMesh, (read, close) => (
    <MeshDialog key={read.mesh.asset} read={read} close={close} />
  ))

function MeshDialog({ read, close }: { read: MeshRead; close: () => void }) {
  const { mesh, file } = read
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const [unit, setUnit] = useState<LengthUnit>(() => guessUnit(mesh, file))
  const [forward, setForward] = useState<Forward>(() => longestAxis(mesh))
  const size = extents(mesh).map((x) => x * unitsOfLength[unit])
  const [materials, setMaterials] = useState(read.materials)
  const beside = useRef<HTMLInputElement>(null)
  const bench = useBench.getState()
  const asPart = () => {
    close()
    let id = ''
    bench.edit(`read ${file} as a part`, (d) => {
      id = addMeshPart(d, file, mesh, unitsOfLength[unit], forward)
      dressPart(d, id, materials)
    })
    bench.select({ kind: 'part', id })
  }
  const standing = () => {
    close()
    let id = ''
    bench.edit(`read ${file}`, (d) => void (id = standMesh(d, { ...read, materials }, unit, forward)))
    useView.getState().lookSoon()
    bench.select({ kind: 'fixture', id })
  }
  return (
    <Dialog open onClose={close} maxWidth="xs" fullWidth>
      <DialogTitle sx={{ typography: 'h2' }}>Mesh of {file}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5 }}>
        <Bounds size={size} forward={forward} />
        <Figure
          label="Size"
          value={size.map((x) => showWithUnit(x, 'distance', units)).join(' × ')}
          word={`${mesh.points} points`}
        />
        <Choice
          label="One unit of the file is"
          value={unit}
          options={['m', 'cm', 'mm', 'in'] as const}
          onChange={setUnit}
        />
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Figure
              label="Materials"
              value={materials.length ? materials.map((m) => m.material.name).join(', ') : 'none'}
              word={materials.length ? 'come along' : ''}
            />
          </Box>
          {/\.obj$/i.test(file) && (
            <Button
              variant="outlined"
              onClick={() => beside.current?.click()}
              title="An OBJ’s materials lie in an MTL beside it, their images in files of their own: choose them together."
            >
              Choose its MTL and images
            </Button>
          )}
          <input
            ref={beside}
            type="file"
            hidden
            multiple
            accept=".mtl,.png,.jpg,.jpeg"
            data-testid="import-mtl"
            onChange={(e) => {
              const files = [...(e.target.files ?? [])]
              e.target.value = ''
              void readMTL(files).then(setMaterials, (e: unknown) => {
                if (!(e instanceof RequestError)) throw e
                bench.say(e.message)
              })
            }}
          />
        </Box>
        <Pick
          label="Its forward, which goes along a path"
          value={forward}
          options={['+x', '+y', '+z'] as const}
          names={{ [longestAxis(mesh)]: `${longestAxis(mesh)}, its longest side` }}
          onChange={setForward}
        />
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={close}>
          Cancel
        </Button>
        <Button variant="outlined" onClick={standing} title="It stands on the ground; paths can lie on it.">
          Stand it in the scene
        </Button>
        <Button variant="contained" onClick={asPart} title="For rows, riders and bodies: it waits in the rack.">
          Take it as a part
        </Button>
      </DialogActions>
    </Dialog>
  )
}

/** The materials of an MTL, with those of their images that were chosen with it. */
async function readMTL(files: File[]): Promise<ReadMaterial[]> {
  const mtl = files.find((f) => /\.mtl$/i.test(f.name))
  if (!mtl) {
    useBench.getState().say('No MTL is among these files: choose it together with its images.')
    return []
  }
  const found = await readMaterialsFile(mtl)
  const missing = new Set<string>()
  for (const { material, wants } of found) {
    for (const [field, name] of Object.entries(wants ?? {})) {
      const base = name.split(/[\\/]/).at(-1)!.toLowerCase()
      const image = files.find((f) => f.name.toLowerCase() === base)
      if (!image) missing.add(base)
      else (material.images ??= {})[field as 'colour'] = (await sendImage(image)).asset
    }
  }
  if (missing.size) {
    useBench.getState().say(`Not chosen with it and left out: ${[...missing].join(', ')}.`)
  }
  return found
}

/** The bounds of a mesh, drawn in their proportions, with its forward as an arrow. */
function Bounds({ size, forward }: { size: number[]; forward: Forward }) {
  const { roles } = useTheme()
  const most = Math.max(...size, 1e-9)
  const [x, y, z] = size.map((s) => Math.max((s / most) * 90, 2)) as [number, number, number]
  // Forward +z to the left below, +x to the right below, +y up.
  const at = (a: number, b: number, c: number) =>
    [150 + 0.85 * (a - c), 92 - b + 0.42 * (a + c)].map((v) => v.toFixed(1)).join(' ')
  const face = (p: string[]) => <path d={`M${p.join('L')}Z`} fill={roles.sunken} stroke={roles.slate} />
  const tip = { '+x': [x / 2 + 22, y / 2, 0], '+y': [0, y + 22, 0], '+z': [0, y / 2, z / 2 + 22] }[forward]
  const from = { '+x': [x / 2, y / 2, 0], '+y': [0, y, 0], '+z': [0, y / 2, z / 2] }[forward]
  const [a, c] = [x / 2, z / 2]
  return (
    <Box sx={{ display: 'grid', placeItems: 'center' }}>
      <svg width="300" height="170" viewBox="0 -20 300 190" role="img" aria-label={`Its bounds, forward ${forward}`}>
        {face([at(-a, y, -c), at(a, y, -c), at(a, y, c), at(-a, y, c)])}
        {face([at(a, 0, -c), at(a, y, -c), at(a, y, c), at(a, 0, c)])}
        {face([at(-a, 0, c), at(-a, y, c), at(a, y, c), at(a, 0, c)])}
        <path
          d={`M${at(from[0]!, from[1]!, from[2]!)}L${at(tip[0]!, tip[1]!, tip[2]!)}`}
          stroke={roles.orange}
          strokeWidth="2.4"
          strokeLinecap="round"
        />
        <circle
          cx={at(tip[0]!, tip[1]!, tip[2]!).split(' ')[0]}
          cy={at(tip[0]!, tip[1]!, tip[2]!).split(' ')[1]}
          r="4"
          fill={roles.orange}
        />
      </svg>
    </Box>
  )
}
