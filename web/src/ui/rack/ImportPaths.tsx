import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import FormControlLabel from '@mui/material/FormControlLabel'
import Checkbox from '@mui/material/Checkbox'
import { useTheme } from '@mui/material/styles'
import { useRef, useState } from 'react'
import { readPathFile, RequestError } from '../../api/client'
import type { PathShape, ReadPath } from '../../core/page.generated'
import { laidPaths, planes, svgUnit, type Lies } from '../../core/imports'
import { showWithUnit, type Quantity } from '../../core/units'
import { useBench } from '../../stores/bench'
import { NumberField } from '../fields/NumberField'
import { Choice, Figure } from '../fields/fields'

/** More paths than this are not taken from one file. */
const most = 200

const isSVG = (file: File) => /\.svg$/i.test(file.name)

/** Whether a file may hold a mesh as well as lines. */
export const mayBeMesh = (file: File) => /\.(obj|glb|gltf)$/i.test(file.name)

/**
 * Reads paths from a chosen file and asks how they are to lie. A file of a mesh
 * without lines goes to `mesh` where that is given.
 */
export function useImport(keep: Keep, say: (problem: string) => void, mesh?: (file: File) => void) {
  const pick = useRef<HTMLInputElement>(null)
  const [read, setRead] = useState<{ file: File; paths: ReadPath[]; unit: number | undefined } | null>(null)

  async function load(file: File, smooth: boolean) {
    try {
      const unit = isSVG(file) ? svgUnit(await file.text()) : undefined
      setRead({ file, paths: await readPathFile(file, smooth), unit })
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
  unit,
  keep,
  reload,
  close,
}: {
  file: File
  paths: ReadPath[]
  unit: number | undefined
  keep: Keep
  reload: (smooth: boolean) => void
  close: () => void
}) {
  const { roles } = useTheme()
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const table = !/\.(svg|obj|glb|gltf)$/i.test(file.name)
  const svg = isSVG(file)
  const [scale, setScale] = useState(unit ?? (svg ? 0.01 : 1))
  const [lies, setLies] = useState<Lies>(svg ? 'above' : 'as is')
  const [smooth, setSmooth] = useState(false)
  const [out, setOut] = useState<ReadonlySet<number>>(new Set())
  const shown = paths.slice(0, most)
  const taken = shown.filter((_, i) => !out.has(i))
  const total = taken.reduce((sum, p) => sum + p.length, 0) * scale
  const quantity: Quantity = 'distance'
  const put = (i: number) => {
    const next = new Set(out)
    if (!next.delete(i)) next.add(i)
    setOut(next)
  }

  function add() {
    keep(file.name, laidPaths(taken, lies, scale))
    close()
  }

  return (
    <Dialog open onClose={close} maxWidth="xs" fullWidth>
      <DialogTitle sx={{ typography: 'h2' }}>Paths of {file.name}</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5 }}>
        <Preview paths={shown} out={out} />
        {shown.length > 1 && (
          <Box sx={{ maxHeight: 140, overflow: 'auto', border: `1px solid ${roles.rule}`, borderRadius: '6px', px: 1 }}>
            {shown.map((p, i) => (
              <FormControlLabel
                key={i}
                sx={{ display: 'flex', height: 26, '& .MuiFormControlLabel-label': { fontSize: 12 } }}
                control={<Checkbox size="small" checked={!out.has(i)} onChange={() => put(i)} />}
                label={`${p.name || `Path ${i + 1}`}, ${showWithUnit(p.length * scale, quantity, units)}`}
              />
            ))}
          </Box>
        )}
        <Figure
          label={taken.length === 1 ? '1 path' : `${taken.length} paths`}
          value={`${showWithUnit(total, quantity, units)} long`}
          word={paths.length > most ? `the first ${most} can be taken` : undefined}
        />
        <NumberField
          label="One unit of the file is"
          value={scale}
          quantity={quantity}
          min={1e-6}
          max={1e4}
          onCommit={setScale}
        />
        {unit !== undefined && (
          <Box sx={{ fontSize: 11, color: roles.secondary, mt: -1 }}>As the width of the drawing says.</Box>
        )}
        <Choice
          label="Lies in"
          value={lies}
          options={[...planes, 'as is'] as const}
          onChange={setLies}
          names={{ above: 'the ground' }}
          hints={{
            side: 'Upright, its lowest point on the ground.',
            ahead: 'Upright, its lowest point on the ground.',
          }}
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
        <Button variant="contained" disabled={taken.length === 0} onClick={add}>
          Add {taken.length === 1 ? 'path' : `${taken.length} paths`}
        </Button>
      </DialogActions>
    </Dialog>
  )
}

/** The paths of a file as they are drawn in it: those that are taken strong. */
function Preview({ paths, out }: { paths: ReadPath[]; out: ReadonlySet<number> }) {
  const { roles } = useTheme()
  // The two axes along which they reach farthest.
  const size = [0, 1, 2].map((k) => {
    let [lo, hi] = [Infinity, -Infinity]
    for (const p of paths)
      for (const q of p.shape.spline!.points) [lo, hi] = [Math.min(lo, q.at[k]!), Math.max(hi, q.at[k]!)]
    return { k, lo, hi }
  })
  const [a, b] = size
    .toSorted((p, q) => q.hi - q.lo - (p.hi - p.lo))
    .slice(0, 2)
    .sort((p, q) => p.k - q.k) as [(typeof size)[0], (typeof size)[0]]
  const k = Math.min(280 / Math.max(a.hi - a.lo, 1e-9), 110 / Math.max(b.hi - b.lo, 1e-9))
  const at = (p: readonly number[], by?: readonly number[]) =>
    `${(10 + (p[a.k]! + (by?.[a.k] ?? 0) - a.lo) * k).toFixed(1)} ${(10 + (p[b.k]! + (by?.[b.k] ?? 0) - b.lo) * k).toFixed(1)}`
  return (
    <Box
      component="svg"
      viewBox="0 0 300 130"
      sx={{ width: '100%', height: 130 }}
      role="img"
      aria-label="The paths of the file"
    >
      {paths.map((p, i) => {
        const { points, closed } = p.shape.spline!
        const list = closed ? [...points, points[0]!] : points
        const d = list
          .map((q, j) =>
            j === 0 ? `M${at(q.at)}` : `C${at(list[j - 1]!.at, list[j - 1]!.out)} ${at(q.at, q.in)} ${at(q.at)}`,
          )
          .join('')
        return (
          <path
            key={i}
            d={d}
            fill="none"
            stroke={out.has(i) ? roles.border : roles.kelp}
            strokeWidth={out.has(i) ? 1 : 1.6}
          />
        )
      })}
    </Box>
  )
}
