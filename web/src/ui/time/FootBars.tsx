import { useTheme } from '@mui/material/styles'
import { useState } from 'react'
import type { CycleReadout } from '../../core/page.generated'
import { clampEnd, plantsWith, roundsAt, type PlantEnd } from '../../core/plants'
import { follow } from '../../scene/pointing'

/** When each foot of a figure stands, as thin bars over the frames, whose ends are pulled. */
export function FootBars({
  cycle,
  first,
  x,
  frameAt,
  top,
  bottom,
  onChange,
}: {
  cycle: CycleReadout
  first: number
  x: (frame: number) => number
  /** The frame, which may lie between two, at a place across the page. */
  frameAt: (clientX: number) => number
  top: number
  bottom: number
  onChange: (end: PlantEnd) => void
}) {
  const { roles } = useTheme()
  const [grip, setGrip] = useState<PlantEnd | null>(null)
  const rounds = cycle.rounds ?? []
  const gap = (bottom - top) / Math.max(cycle.feet.length, 1)
  const pull = (e: React.PointerEvent, g: PlantEnd) => {
    if (e.button !== 0) return
    e.preventDefault()
    e.stopPropagation()
    const from = roundsAt(rounds, frameAt(e.clientX) - first)
    let last: PlantEnd | null = null
    follow(
      (ev) => {
        const gone = roundsAt(rounds, frameAt(ev.clientX) - first) - from
        last = clampEnd(cycle, { ...g, value: g.value + gone })
        setGrip(last)
      },
      (kept) => {
        setGrip(null)
        if (kept && last && last.value !== g.value) onChange(last)
      },
    )
  }
  return (
    <g data-testid="foot-bars">
      {cycle.feet.map((f, i) => {
        const plants = plantsWith(cycle, i, grip)
        // The plant in which it stands in each frame, -1 for none.
        const stands = rounds.map((u) => {
          const share = u - Math.floor(u)
          return plants.findIndex((p) => (share >= p[0] && share <= p[1]) || share + 1 <= p[1])
        })
        const runs: { plant: number; a: number; b: number }[] = []
        stands.forEach((plant, k) => {
          if (plant >= 0 && stands[k - 1] === plant) runs.at(-1)!.b = k
          else if (plant >= 0) runs.push({ plant, a: k, b: k })
        })
        const y = top + (i + 0.5) * gap
        return runs.map(({ plant, a, b }) => (
          <g key={`${f.joint} ${a}`}>
            <line
              x1={x(first + a)}
              x2={x(first + b)}
              y1={y}
              y2={y}
              stroke={roles.kelp}
              strokeWidth={Math.min(gap * 0.7, 3)}
              opacity={0.55}
              pointerEvents="none"
            />
            {([0, 1] as const).map((end) => {
              const at = end ? b : a
              // What the range cuts off has no end there.
              if (stands[at + (end ? 1 : -1)] === undefined) return null
              return (
                <rect
                  key={end}
                  x={x(first + at) - 3}
                  y={y - Math.max(gap / 2, 1.5)}
                  width={6}
                  height={Math.max(gap, 3)}
                  fill="transparent"
                  style={{ cursor: 'ew-resize' }}
                  data-end={`${f.joint} ${end ? 'until' : 'from'}`}
                  onPointerDown={(e) => pull(e, { foot: i, plant, end, value: cycle.feet[i]!.plants[plant]![end] })}
                >
                  <title>{`${f.joint} stands ${end ? 'until' : 'from'} here, in every round. Drag it.`}</title>
                </rect>
              )
            })}
          </g>
        ))
      })}
    </g>
  )
}
