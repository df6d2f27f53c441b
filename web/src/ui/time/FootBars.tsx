import { useTheme } from '@mui/material/styles'
import type { CycleReadout } from '../../core/page.generated'

/** When each foot of a figure stands, as thin bars over the frames. */
export function FootBars({
  cycle,
  first,
  x,
  top,
  bottom,
}: {
  cycle: CycleReadout
  first: number
  x: (frame: number) => number
  top: number
  bottom: number
}) {
  const { roles } = useTheme()
  const rounds = cycle.rounds ?? []
  const gap = (bottom - top) / Math.max(cycle.feet.length, 1)
  return (
    <g data-testid="foot-bars" pointerEvents="none">
      {cycle.feet.map((f, i) => {
        const stands = rounds.map((u) =>
          f.plants.some((p) => {
            const share = u - Math.floor(u)
            return (share >= p[0] && share <= p[1]) || share + 1 <= p[1]
          }),
        )
        const runs: [number, number][] = []
        stands.forEach((s, k) => {
          if (s && stands[k - 1]) runs[runs.length - 1]![1] = k
          else if (s) runs.push([k, k])
        })
        const y = top + (i + 0.5) * gap
        return runs.map(([a, b]) => (
          <line
            key={`${f.joint} ${a}`}
            x1={x(first + a)}
            x2={x(first + b)}
            y1={y}
            y2={y}
            stroke={roles.kelp}
            strokeWidth={Math.min(gap * 0.7, 3)}
            opacity={0.55}
          />
        ))
      })}
    </g>
  )
}
