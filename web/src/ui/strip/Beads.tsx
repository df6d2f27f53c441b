import { useTheme } from '@mui/material/styles'
import { shifted } from '../../core/value'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { byKeys, rulerStep } from '../fields/byKeys'
import { rows } from './rows'

/** More pieces than this become ticks. */
const beadLimit = 90

/** Moves a rig along its path: travel that is keyed gets a key at the play head. */
function moveAlong(rig: number, by: number) {
  const bench = useBench.getState()
  const pieces = bench.shown.find((p) => p.rig === rig)
  const base = bench.base?.rigs[rig]
  if (!pieces || !base) return
  bench.edit(`move ${base.name} along`, (d) => {
    d.rigs[rig]!.travel = shifted(base.travel, by, useClock.getState().frame, pieces.travel)
  })
}

/** The pieces at their distances; the first moves travel by keys, too. */
export function Beads({
  rig,
  distances,
  x,
  length,
  hovered,
}: {
  rig: number
  distances: Float64Array
  x: (s: number) => number
  length: number
  hovered: number | null
}) {
  const { roles } = useTheme()
  let d = ''
  const many = distances.length > beadLimit
  for (let i = 1; i < distances.length; i++) {
    const s = distances[i]!
    if (s < -1e-9 || s > length + 1e-9) continue
    const cx = x(s).toFixed(1)
    d += many
      ? `M${cx} ${rows.pieces - 4}v8`
      : `M${(x(s) - 3.6).toFixed(1)} ${rows.pieces}a3.6 3.6 0 1 0 7.2 0a3.6 3.6 0 1 0 -7.2 0`
  }
  const first = distances[0]
  return (
    <>
      <path d={d} fill={many ? 'none' : roles.raised} stroke={roles.slate} strokeWidth="1.1" />
      {hovered !== null && distances[hovered] !== undefined && (
        <circle cx={x(distances[hovered])} cy={rows.pieces} r="4.4" fill={roles.kelp} />
      )}
      {first !== undefined && first >= 0 && first <= length && (
        <circle
          cx={x(first)}
          cy={rows.pieces}
          r="4.4"
          fill={roles.orange}
          {...byKeys({
            label: 'Piece 1, which travel moves',
            value: first,
            says: `${first.toFixed(3)} m`,
            step: (right) => moveAlong(rig, right * rulerStep(length, x(length) - x(0))),
          })}
        />
      )}
    </>
  )
}
