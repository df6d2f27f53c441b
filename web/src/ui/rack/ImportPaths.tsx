import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import FormControlLabel from '@mui/material/FormControlLabel'
import Checkbox from '@mui/material/Checkbox'
import { useRef, useState } from 'react'
import { readPathFile, RequestError } from '../../api/client'
import type { PathShape, ReadPath } from '../../core/page.generated'
import type { Quantity } from '../../core/units'
import { NumberField } from '../fields/NumberField'
import { Choice, Figure } from '../fields/fields'

const planes = ['above', 'side', 'ahead'] as const
type PlaneName = (typeof planes)[number]
type Vec3 = [number, number, number]

/** More paths than this are not taken from one file. */
const most = 200

/**
 * Lays a file's flat numbers into a plane of the scene and scales them. SVG's y
 * runs down, so it is turned over in upright planes.
 */
function laid(p: Vec3, plane: PlaneName | 'as is', scale: number): Vec3 {
  const [x, y, z] = p.map((v) => v * scale) as Vec3
  switch (plane) {
    case 'above':
      return [x, z, y]
    case 'side':
      return [z, -y, x]
    case 'ahead':
      return [x, -y, z]
    default:
      return [x, y, z]
  }
}

/** Whether a file may hold a mesh as well as lines. */
export const mayBeMesh = (file: File) => /\.(obj|glb|gltf)$/i.test(file.name)

/**
 * Reads paths from a chosen file and asks how they are to lie. A file of a mesh
 * without lines goes to `mesh` where that is given.
 */
export function useImport(keep: Keep, say: (problem: string) => void, mesh?: (file: File) => void) {
  const pick = useRef<HTMLInputElement>(null)
  const [read, setRead] = useState<{ file: File; paths: ReadPath[] } | null>(null)

  async function load(file: File, smooth: boolean) {
    try {
      setRead({ file, paths: await readPathFile(file, smooth) })
    } catch (e) {
      if (!(e instanceof RequestError)) throw e
      if (mesh && mayBeMesh(file) && e.problem.status === 422) mesh(file)
      else say(`${file.name}: ${e.message}`)
    }
  }
  const input = (
    <>
      <input
        ref={pick}
        type="file"
        accept=".svg,.csv,.tsv,.txt,.obj,.glb,.gltf"
        hidden
        data-testid="import-file"
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) void load(file, false)
        }}
      />
      {read && (
        <ImportDialog
          key={read.file.name}
          {...read}
          keep={keep}
          reload={(smooth) => void load(read.file, smooth)}
          close={() => setRead(null)}
        />
      )}
    </>
  )
  return { input, choose: () => pick.current?.click(), load }
}

/** Takes the paths as they are to lie in the scene, with the file's name. */
type Keep = (file: string, paths: { name: string; shape: PathShape }[]) => void

function ImportDialog({
  file,
  paths,
  keep,
  reload,
  close,
}: {
  file: File
  paths: ReadPath[]
  keep: Keep
  reload: (smooth: boolean) => void
  close: () => void
}) {
  const table = !/\.(svg|obj|glb|gltf)$/i.test(file.name)
  const svg = /\.svg$/i.test(file.name)
  const [scale, setScale] = useState(svg ? 0.01 : 1)
  const [plane, setPlane] = useState<PlaneName | 'as is'>(svg ? 'above' : 'as is')
  const [smooth, setSmooth] = useState(false)
  const total = paths.reduce((sum, p) => sum + p.length, 0)
  const quantity: Quantity = 'distance'

  function add() {
    keep(
      file.name,
      paths.slice(0, most).map((p) => {
        const { closed, points } = p.shape.spline!
        return {
          name: p.name.slice(0, 60) || 'Path',
          shape: {
            spline: {
              closed,
              points: points.map((q) => ({
                ...q,
                at: laid(q.at, plane, scale),
                ...(q.in ? { in: laid(q.in, plane, scale) } : {}),
                ...(q.out ? { out: laid(q.out, plane, scale) } : {}),
              })),
            },
          },
        }
      }),
    )
    close()
  }

  return (
    <Dialog open onClose={close} maxWidth="xs" fullWidth>
      <DialogTitle sx={{ typography: 'h2' }}>Paths of {file.name}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5 }}>
        <Figure
          label={paths.length === 1 ? '1 path' : `${paths.length} paths`}
          value={`${Number(total.toPrecision(6))} units long`}
          word={paths.length > most ? `the first ${most} are taken` : undefined}
        />
        <NumberField
          label="One unit of the file is"
          value={scale}
          quantity={quantity}
          min={1e-6}
          max={1e4}
          onCommit={setScale}
        />
        <Choice
          label="Lies in"
          value={plane}
          options={[...planes, 'as is'] as const}
          onChange={setPlane}
          names={{ above: 'the ground' }}
        />
        {table && (
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={smooth}
                onChange={(e) => {
                  setSmooth(e.target.checked)
                  reload(e.target.checked)
                }}
              />
            }
            label="A smooth curve through the points"
          />
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={close}>
          Cancel
        </Button>
        <Button variant="contained" onClick={add}>
          Add {paths.length === 1 ? 'path' : 'paths'}
        </Button>
      </DialogActions>
    </Dialog>
  )
}
