import { byKeys, rulerStep } from '../fields/byKeys'
import { useTheme } from '@mui/material/styles'
import type { ScaleLinear } from 'd3-scale'
import { shifted } from '../../core/value'
import { follow } from '../../scene/pointing'
import { pullPiece } from '../../scene/Pieces'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { local, rows } from './rows'

const half = 5.5

/**
 * The stretch of the path that each body covers, as a sleeve on the thread. Pulled it travels; the
 * two ends of a body's reach are pulled apart.
 */
export function Sleeve({
  rig,
  reach,
  x,
  length,
  closed,
  svg,
}: {
  rig: number
  /** Tail and head of each piece. */
  reach: Float64Array
  x: ScaleLinear<number, number>
  length: number
  closed: boolean
  svg: React.RefObject<SVGSVGElement | null>
}) {
  const { roles } = useTheme()
  const bend = useBench((b) => b.doc?.rigs[rig]?.body)
  const parts: [number, number, number, boolean, boolean][] = []
  for (let i = 0; i + 1 < reach.length; i += 2) {
    let from = reach[i]!
    let to = reach[i + 1]!
    if (to <= from) continue // a copy that is not shown
    if (closed) {
      const turns = Math.floor(from / length) * length
      from -= turns
      to -= turns
      parts.push([i / 2, from, Math.min(to, length), true, to <= length])
      for (let rest = to - length; rest > 0; rest -= length) {
        parts.push([i / 2, 0, Math.min(rest, length), false, rest <= length])
      }
      continue
    }
    // What runs on beyond an end is drawn a little way out.
    const out = (length * 10) / (x(length) - x(0))
    if (to < -out || from > length + out) continue
    parts.push([i / 2, Math.max(from, -out), Math.min(to, length + out), from >= -out, to <= length + out])
  }
  const where = (clientX: number) => x.invert(local(svg, clientX))

  /** Moves an end along the path: what is keyed gets a key at the play head. */
  function moveEnd(end: 'tail' | 'head', by: number) {
    const bench = useBench.getState()
    const base = bench.base?.rigs[rig]
    if (!base) return
    const travel = bench.shown.find((p) => p.rig === rig)?.travel ?? 0
    const present = (end === 'tail' ? reach[0]! : reach[1]!) - travel
    bench.edit(`move the ${end} of ${base.name}`, (d) => {
      d.rigs[rig]!.body![end] = shifted(base.body?.[end] ?? 0, by, useClock.getState().frame, present)
    })
  }

  function pullEnd(e: React.PointerEvent, end: 'tail' | 'head') {
    if (e.button !== 0) return
    const bench = useBench.getState()
    const base = bench.base?.rigs[rig]
    if (bend?.fit !== 'reach' || !base) return
    e.preventDefault()
    e.stopPropagation()
    const frame = useClock.getState().frame
    useClock.getState().pause()
    const start = where(e.clientX)
    const travel = bench.shown.find((p) => p.rig === rig)?.travel ?? 0
    const present = (end === 'tail' ? reach[0]! : reach[1]!) - travel
    let moved = false
    follow(
      (ev) => {
        moved = true
        const by = where(ev.clientX) - start
        bench.preview((d) => {
          const b = d.rigs[rig]!.body!
          b[end] = shifted(base.body?.[end] ?? 0, by, frame, present)
        })
      },
      (kept) => {
        if (!moved) return
        if (kept) useBench.getState().commit(`move the ${end} of ${base.name}`)
        else useBench.getState().cancel()
      },
    )
  }

  return (
    <g data-testid="sleeve">
      {parts.map(([piece, from, to, tail, head], k) => (
        <g key={k}>
          <rect
            x={x(from)}
            y={rows.pieces - half}
            width={Math.max(x(to) - x(from), 2)}
            height={2 * half}
            rx={half}
            fill={roles.kelp}
            fillOpacity={0.22}
            stroke={roles.kelp}
            strokeWidth="1.2"
            style={{ cursor: 'grab', touchAction: 'none' }}
            onPointerDown={(e) => {
              if (e.button !== 0) return
              e.preventDefault()
              pullPiece(rig, piece, e, where)
            }}
          >
            <title>Pull the body along the path</title>
          </rect>
          {bend &&
            (
              [
                [tail, from, 'tail', roles.slate],
                [head, to, 'head', roles.orange],
              ] as const
            ).map(
              ([there, at, end, colour]) =>
                there && (
                  <circle
                    key={end}
                    cx={x(at)}
                    cy={rows.pieces}
                    r={bend.fit === 'reach' ? 5 : 3.6}
                    fill={colour}
                    stroke={roles.raised}
                    strokeWidth="1"
                    data-testid={`sleeve-${end}`}
                    style={{ cursor: bend.fit === 'reach' ? 'ew-resize' : 'default', touchAction: 'none' }}
                    pointerEvents={bend.fit === 'reach' ? 'auto' : 'none'}
                    onPointerDown={(e) => pullEnd(e, end)}
                    {...(bend.fit === 'reach'
                      ? byKeys({
                          label: `The ${end} of the body`,
                          value: at,
                          says: `${at.toFixed(3)} m`,
                          step: (right) => moveEnd(end, right * rulerStep(length, x(length) - x(0))),
                        })
                      : {})}
                  >
                    <title>{end === 'tail' ? 'Tail' : 'Head'}</title>
                  </circle>
                ),
            )}
        </g>
      ))}
    </g>
  )
}
