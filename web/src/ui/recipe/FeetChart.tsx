import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import { useRef, useState } from 'react'
import type { CycleReadout } from '../../core/page.generated'
import { clampEnd, plantsWith, withoutEnding, type PlantEnd } from '../../core/plants'
import { follow } from '../../scene/pointing'
import { useWidth } from '../fields/measure'

const row = 16
const names = 84

/** When each foot stands, over one round: bars whose ends are pulled. */
export function FeetChart({
  cycle,
  now,
  onChange,
}: {
  cycle: CycleReadout
  /** Where in the round the frame is. */
  now?: number
  onChange: (end: PlantEnd) => void
}) {
  const { roles } = useTheme()
  const [ref, width] = useWidth<HTMLDivElement>(150)
  const svg = useRef<SVGSVGElement>(null)
  const [grip, setGrip] = useState<PlantEnd | null>(null)
  const span = Math.max(width - names - 8, 40)
  const x = (u: number) => names + u * span
  const called = withoutEnding(cycle.feet.map((f) => f.joint))
  const plantsOf = (i: number) => plantsWith(cycle, i, grip)
  const pull = (e: React.PointerEvent, foot: number, plant: number, end: 0 | 1, from: number) => {
    if (e.button !== 0) return
    e.preventDefault()
    const start = e.clientX
    let last: PlantEnd | null = null
    follow(
      (ev) => {
        last = clampEnd(cycle, { foot, plant, end, value: from + (ev.clientX - start) / span })
        setGrip(last)
      },
      (kept) => {
        setGrip(null)
        if (kept && last) onChange(last)
      },
    )
  }
  return (
    <Box ref={ref} sx={{ minWidth: 0, overflow: 'hidden' }}>
      <svg
        ref={svg}
        width={width}
        height={cycle.feet.length * row + 16}
        style={{ display: 'block', font: `11px/14px 'IBM Plex Sans', sans-serif`, touchAction: 'none' }}
        data-testid="feet"
      >
        {cycle.feet.map((f, i) => {
          const y = i * row + 8
          return (
            <g key={f.joint}>
              <text x={0} y={y + 4} fill={roles.secondary}>
                <title>{f.joint}</title>
                {called[i]!.length > 14 ? called[i]!.slice(0, 13) + '…' : called[i]}
              </text>
              <line x1={x(0)} x2={x(1)} y1={y} y2={y} stroke={roles.rule} />
              {plantsOf(i).flatMap((p, k) =>
                [0, 1].map((turn) => {
                  const a = Math.max(p[0] - turn, 0)
                  const b = Math.min(p[1] - turn, 1)
                  return b > a ? (
                    <rect
                      key={`${k}-${turn}`}
                      x={x(a)}
                      width={x(b) - x(a)}
                      y={y - 4}
                      height={8}
                      rx={2}
                      fill={roles.kelp}
                      opacity={0.55}
                    />
                  ) : null
                }),
              )}
              {plantsOf(i).flatMap((p, k) =>
                ([0, 1] as const).map((end) => {
                  const u = p[end]
                  const at = u > 1 ? u - 1 : u
                  return (
                    <rect
                      key={`${k}-${end}-grip`}
                      x={x(at) - 3}
                      y={y - 6}
                      width={6}
                      height={12}
                      rx={2}
                      fill={roles.paper}
                      stroke={roles.kelp}
                      role="slider"
                      tabIndex={0}
                      aria-label={`${f.joint} stands ${end ? 'until' : 'from'}`}
                      aria-valuenow={Math.round(u * 1000) / 1000}
                      aria-valuemin={0}
                      aria-valuemax={2}
                      style={{ cursor: 'ew-resize' }}
                      onPointerDown={(e) => pull(e, i, k, end, u)}
                      onKeyDown={(e) => {
                        const step = e.key === 'ArrowLeft' ? -0.01 : e.key === 'ArrowRight' ? 0.01 : 0
                        if (!step) return
                        e.preventDefault()
                        e.stopPropagation()
                        onChange(clampEnd(cycle, { foot: i, plant: k, end, value: u + step * (e.shiftKey ? 10 : 1) }))
                      }}
                    >
                      <title>{`${f.joint} stands ${end ? 'until' : 'from'} ${(u * 100).toFixed(1)} % of the round. Drag, or ← →.`}</title>
                    </rect>
                  )
                }),
              )}
            </g>
          )
        })}
        {now !== undefined && (
          <line x1={x(now)} x2={x(now)} y1={0} y2={cycle.feet.length * row} stroke={roles.orange} strokeWidth="1.4" />
        )}
        <text x={x(0)} y={cycle.feet.length * row + 12} fill={roles.secondary}>
          0
        </text>
        <text x={x(1)} y={cycle.feet.length * row + 12} textAnchor="end" fill={roles.secondary}>
          a round
        </text>
      </svg>
    </Box>
  )
}
