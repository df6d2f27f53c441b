import { byKeys, rulerStep } from '../fields/byKeys'
import { useTheme } from '@mui/material/styles'
import type { ScaleLinear } from 'd3-scale'
import { area, line as lineOf } from 'd3-shape'
import type { RollBead } from '../../core/page.generated'
import { follow } from '../../scene/pointing'
import { useBench } from '../../stores/bench'
import { local, rows, trim } from './rows'
import { gutter } from '../fields/measure'
import { mono } from '../../look/theme'

/** Roll by distance as a line with beads to pull, before the twist it makes. */
export function RollRow({
  rig,
  beads,
  roll,
  twist,
  x,
  length,
  svg,
}: {
  rig: number
  beads: readonly RollBead[]
  roll: readonly number[]
  twist: readonly number[]
  x: ScaleLinear<number, number>
  length: number
  svg: React.RefObject<SVGSVGElement | null>
}) {
  const { roles } = useTheme()
  const chosen = useBench((b) => b.rollBead)
  const half = 9
  const most = Math.max(30, ...roll.map(Math.abs))
  const y = (deg: number) => rows.roll - (deg / most) * half
  const line =
    lineOf<number>()
      .x((_, i) => x((length * i) / (roll.length - 1)))
      .y(y)(roll as number[]) ?? ''
  const topTwist = Math.max(...twist.map(Math.abs))
  const bars =
    topTwist > 0.05
      ? (area<number>()
          .x((_, i) => x((length * (i + 0.5)) / twist.length))
          .y0(rows.roll)
          .y1((t) => rows.roll - (t / topTwist) * half)(twist as number[]) ?? '')
      : ''
  const change = (label: string, put: (list: RollBead[]) => void) =>
    useBench.getState().edit(label, (d) => {
      const f = d.rigs[rig]!.facing
      put((f.rollAt ??= []))
      f.rollAt.sort((a, b) => a.at - b.at)
    })
  function pull(e: React.PointerEvent, i: number) {
    if (e.button !== 0) return
    e.preventDefault()
    e.stopPropagation()
    const bench = useBench.getState()
    const start = bench.doc!.rigs[rig]!.facing.rollAt![i]!
    const fromX = x.invert(local(svg, e.clientX))
    const perPixel = Math.max(most / half, 4)
    const lo = i > 0 ? beads[i - 1]!.at + 1e-4 : 0
    const hi = i < beads.length - 1 ? beads[i + 1]!.at - 1e-4 : length
    useBench.setState({ rollBead: i })
    let moved = false
    follow(
      (ev) => {
        moved = true
        const at = Math.min(Math.max(start.at + x.invert(local(svg, ev.clientX)) - fromX, lo), hi)
        bench.preview((d) => {
          const b = d.rigs[rig]!.facing.rollAt![i]!
          b.at = Math.round(at * 1e4) / 1e4
          b.roll = Math.round(start.roll + (e.clientY - ev.clientY) * perPixel)
        })
      },
      (kept) => {
        if (!moved) return
        if (kept) useBench.getState().commit('pull a roll key')
        else useBench.getState().cancel()
      },
    )
  }
  return (
    <g>
      <path d={bars} fill={roles.slate} opacity={0.28} />
      {bars && (
        <text x={gutter - 8} y={rows.roll + 13} textAnchor="end" fontFamily={mono} fill={roles.secondary}>
          {trim(topTwist)}°/m
        </text>
      )}
      <path d={line} fill="none" stroke={roles.brass} strokeWidth="1.4" />
      <rect
        x={gutter}
        y={rows.roll - 9}
        width={Math.max(x(length) - gutter, 0)}
        height={17}
        fill="transparent"
        style={{ cursor: 'copy' }}
        data-testid="strip-roll"
        onClick={() => useBench.setState({ rollBead: null })}
        onDoubleClick={(e) => {
          const at = Math.round(x.invert(local(svg, e.clientX)) * 1e4) / 1e4
          const now = roll[Math.round((at / length) * (roll.length - 1))] ?? 0
          change('add a roll key', (l) => void l.push({ at, roll: Math.round(now), ease: 'eased' }))
          useBench.setState({ rollBead: beads.filter((b) => b.at < at).length })
        }}
      >
        <title>Double-click to add a roll key</title>
      </rect>
      {beads.map((b, i) => (
        <circle
          key={i}
          cx={x(Math.min(b.at, length))}
          cy={y(b.roll)}
          r="4.4"
          fill={chosen === i ? roles.brass : roles.raised}
          stroke={roles.brass}
          strokeWidth="1.6"
          style={{ cursor: 'grab', touchAction: 'none' }}
          data-testid="roll-bead"
          onPointerDown={(e) => pull(e, i)}
          onFocus={() => useBench.setState({ rollBead: i })}
          {...byKeys({
            label: `Roll key ${i + 1}`,
            value: b.roll,
            says: `${b.roll}° at ${trim(b.at)} m`,
            step: (right, up) => {
              const at = b.at + right * rulerStep(length, x(length) - x(0))
              change('move a roll key', (l) => {
                l[i]!.at = Number(Math.min(Math.max(at, 0), length).toPrecision(9))
                l[i]!.roll = b.roll + up
              })
            },
          })}
        >
          <title>
            Roll {b.roll}° at {trim(b.at)} m
          </title>
        </circle>
      ))}
    </g>
  )
}
