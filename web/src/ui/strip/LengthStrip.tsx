import Box from '@mui/material/Box'
import { useTheme } from '@mui/material/styles'
import type { Path } from '../../core/page.generated'
import { movedStart } from '../../core/start'
import { flipsOf } from '../../scene/Comb'
import { follow } from '../../scene/pointing'
import { scaleLinear } from 'd3-scale'
import { area, line as lineOf } from 'd3-shape'
import { useMemo, useRef } from 'react'
import { showWithUnit, shownUnit } from '../../core/units'
import { wheelStride } from '../../core/wire'
import { pullPiece } from '../../scene/Pieces'
import { useBench } from '../../stores/bench'
import { chosenRig, stripPath } from '../../stores/chosen'
import { useView } from '../../stores/prefs'
import { gutter, useWidth } from '../fields/measure'
import { kindIn } from '../kinds/kinds'
import { Beads } from './Beads'
import { RollRow } from './RollRow'
import { local, rows, trim } from './rows'
import { Sleeve } from './Sleeve'
import { mono } from '../../look/theme'

/** The path laid out straight: curvature, pieces, seam, start and travel. */
export function LengthStrip() {
  const { roles } = useTheme()
  const [ref, width] = useWidth<HTMLDivElement>()
  const units = useBench((b) => b.doc?.units) ?? 'mm'
  const pathIndex = useBench((b) => stripPath(b)?.index ?? -1)
  const path = useBench((b) => stripPath(b)?.path)
  const info = useBench((b) => b.answer?.readout.paths[pathIndex])
  const turning = useBench((b) => b.shot.wheels[pathIndex])
  const contacts = useMemo(
    () =>
      (info?.wheels ?? []).map((w, i) => {
        const o = wheelStride * i
        if (!turning || turning.length < o + wheelStride) return w
        return { touches: turning[o + 7] !== 0, from: turning[o + 8]!, to: turning[o + 9]! }
      }),
    [info, turning],
  )
  const rigIndex = useBench((b) => chosenRig(b)?.index ?? -1)
  const rig = useBench((b) => chosenRig(b)?.rig)
  const kind = rig && kindIn(rig)
  const laid = useBench((b) => b.answer?.readout.rigs[rigIndex])
  const shownCheck = useBench((b) =>
    b.checks.find((c) => c.id === b.shownCheck && c.rig === rig?.id && c.state !== 'inside'),
  )
  const pieces = useBench((b) => b.shown.find((p) => p.rig === rigIndex))
  const body = useBench((b) => b.shot.bodies[rigIndex])
  const hovered = useView((v) => v.hoveredPiece)
  const svg = useRef<SVGSVGElement>(null)
  const length = info?.length ?? 1
  const x = useMemo(() => scaleLinear([0, length], [gutter, Math.max(width - 20, gutter + 50)]), [length, width])

  const curvature = useMemo(() => {
    if (!info) return null
    const n = info.curvature.length - 1
    const most = Math.max(...info.curvature.map(Math.abs), 1e-6)
    const top = niceAbove(most)
    // With curvature against the loop the line moves up to make room below it.
    const against = info.curvature.some((k) => k < -0.02 * most)
    const zero = against ? 67 : rows.curve
    const y = scaleLinear([-top, 0, top], [2 * zero - rows.curveTop, zero, rows.curveTop])
    const points = info.curvature.map((k, i) => [(length * i) / n, k] as [number, number])
    const at = (p: [number, number]) => x(p[0])
    return {
      top: most > 1e-5 ? top : 0,
      y: y(top),
      zero,
      fill:
        area<[number, number]>()
          .x(at)
          .y0(y(0))
          .y1((p) => y(p[1]))(points) ?? '',
      line:
        lineOf<[number, number]>()
          .x(at)
          .y((p) => y(p[1]))(points) ?? '',
    }
  }, [info, length, x])

  const named = useMemo(
    () =>
      thinned(
        contacts.flatMap((w, i) => {
          const name = path?.shape.wrap?.wheels[i]?.name
          return w.touches && name ? [{ key: i, name, at: x(((w.from + w.to) / 2) % length), wide: w.to - w.from }] : []
        }),
        x(0) + (info?.closed ? 66 : 30),
        x(length) - 32,
      ),
    [contacts, path, x, length, info?.closed],
  )

  const now = pieces
  const title = rig?.name ?? path?.name ?? ''

  if (!info || !path) {
    return (
      <Box ref={ref} sx={{ height: '100%', px: 2, py: 1, color: roles.secondary }}>
        <Box component="span" sx={{ typography: 'h3', color: roles.ink, mr: 1.5 }}>
          Length
        </Box>
        The chosen path lies here as a ruler, with its pieces at their distances.
      </Box>
    )
  }
  const whereX = shownCheck?.where ? x(Math.min(Math.max(shownCheck.where.distance, 0), length)) : null
  const checkText = shownCheck?.state === 'outside' ? roles.redText : roles.amberText
  const rulerUnit = shownUnit('distance', units)
  const perUnit = rulerUnit === 'ft' ? 0.3048 : 1

  return (
    <Box ref={ref} sx={{ height: '100%', overflow: 'hidden', position: 'relative' }}>
      <svg
        ref={svg}
        width={width}
        height={160}
        style={{ display: 'block', userSelect: 'none', font: `11px/16px 'IBM Plex Sans', sans-serif` }}
        role="group"
        aria-label={`${title}, ${showWithUnit(length, 'distance', units)} long`}
      >
        <text x={16} y={rows.head + 4} fontSize="13" fontWeight="600" fill={roles.ink}>
          Length
        </text>
        <text x={67} y={rows.head + 4} fontSize="12" fill={roles.secondary}>
          {title}, {info.closed ? 'closed' : 'open'},{' '}
          <tspan fontFamily={mono}>{showWithUnit(length, 'distance', units)}</tspan>
        </text>
        {now?.distances[0] !== undefined && rig && (
          <text
            x={width - 20}
            y={rows.head + 4}
            textAnchor="end"
            fontSize="12"
            fontWeight="500"
            fill={roles.orangeText}
          >
            {laid?.row ? 'Piece 1' : rig?.name} at {showWithUnit(now.distances[0], 'distance', units)}
          </text>
        )}
        <g fill={roles.secondary}>
          {named.length > 0 && (
            <text x={16} y={rows.marks - 1}>
              wheels
            </text>
          )}
          <text x={16} y={rows.curve + 4}>
            curvature
          </text>
          {rig && (
            <>
              <text x={16} y={rows.pieces + 4}>
                {kind!.row}
              </text>
              <text x={16} y={rows.roll + 1}>
                roll, twist
              </text>
            </>
          )}
          <text x={16} y={rows.ruler + 16}>
            {rulerUnit === 'ft' ? 'feet' : 'metres'}
          </text>
        </g>

        {/* Curvature: above the line turns with the loop, below it against. */}
        <path d={curvature!.fill} fill={roles.kelp} opacity={0.2} />
        <path d={curvature!.line} fill="none" stroke={roles.kelp} strokeWidth="1.2" />
        <line
          x1={gutter}
          x2={x(length)}
          y1={curvature!.zero}
          y2={curvature!.zero}
          stroke={roles.border}
          strokeWidth="0.8"
        />
        {curvature!.top > 0 && (
          <>
            <line
              x1={gutter}
              x2={x(length)}
              y1={curvature!.y}
              y2={curvature!.y}
              stroke={roles.rule}
              strokeDasharray="1.5 2.5"
            />
            <text x={gutter - 8} y={curvature!.y + 4} textAnchor="end" fontFamily={mono} fill={roles.secondary}>
              {trim(curvature!.top)}/m
            </text>
          </>
        )}

        {info.crossings?.map((c) =>
          [c.a, c.b].map((s) => (
            <path
              key={`${c.a} ${s}`}
              d={`M${x(s) - 3.5} ${rows.curve - 3.5}l7 7m0 -7l-7 7`}
              stroke={roles.amberText}
              strokeWidth="1.6"
            >
              <title>The path crosses itself here</title>
            </path>
          )),
        )}

        {/* Ends: the seam of a closed path, the start mark of any. */}
        {[0, length].map((s, i) => (
          <g key={s}>
            <line x1={x(s)} x2={x(s)} y1={rows.marks + 4} y2={rows.ruler} stroke={roles.kelp} strokeWidth="1.3" />
            <text
              x={x(s)}
              y={rows.marks - 1}
              textAnchor={i ? 'end' : 'start'}
              fontWeight="600"
              fill={roles.kelpText}
              style={info.closed && !i ? { cursor: 'grab', touchAction: 'none' } : undefined}
              data-testid={i ? undefined : 'strip-start'}
              onPointerDown={
                info.closed && !i ? (e) => pullStart(pathIndex, length, e, (cx) => x.invert(local(svg, cx))) : undefined
              }
            >
              {info.closed && !i && <title>Pull along to move where the loop starts</title>}
              {info.closed ? (i ? 'seam' : 'start, seam') : i ? 'end' : 'start'}
            </text>
          </g>
        ))}

        {contacts.map(
          (w, i) =>
            w.touches && (
              <g key={`wheel${i}`} data-testid="contact">
                {/* A contact that holds the start goes on at the strip's other end. */}
                {[w.from, w.from - length].map(
                  (from, k) =>
                    from + (w.to - w.from) >= 0 &&
                    (k === 0 || w.to > length) && (
                      <rect
                        key={k}
                        x={x(Math.max(from, 0))}
                        y={rows.curveTop}
                        width={Math.max(x(Math.min(from + (w.to - w.from), length)) - x(Math.max(from, 0)), 1)}
                        height={rows.travel - rows.curveTop}
                        fill={roles.slate}
                        fillOpacity={0.12}
                      />
                    ),
                )}
                <title>{path?.shape.wrap?.wheels[i]?.name}</title>
              </g>
            ),
        )}
        {named.map((w) => (
          <text key={w.key} x={w.at} y={rows.marks - 1} textAnchor="middle" fill={roles.secondary} data-testid="wheel">
            {w.name}
          </text>
        ))}
        {/* Travel, from the start mark to piece 1. */}
        {rig && now?.distances[0] !== undefined && (
          <>
            <line
              x1={x(0)}
              x2={x(clamp(now.distances[0], length))}
              y1={rows.travel}
              y2={rows.travel}
              stroke={roles.orange}
              strokeWidth="3.5"
            />
            <line
              x1={x(clamp(now.distances[0], length))}
              x2={x(clamp(now.distances[0], length))}
              y1={rows.pieces}
              y2={rows.travel + 1.7}
              stroke={roles.orange}
              strokeWidth="1.3"
            />
          </>
        )}
        {rig && now && <line x1={gutter} x2={x(length)} y1={rows.pieces} y2={rows.pieces} stroke={roles.rule} />}
        {rig && body && (
          <Sleeve rig={rigIndex} reach={body.reach} x={x} length={length} closed={info.closed} svg={svg} />
        )}
        {rig && kind?.strip?.(rig, x, length)}
        {rig && now && laid && (!body || kind?.strip) && (
          <Beads rig={rigIndex} distances={now.distances} x={x} length={length} hovered={hovered} />
        )}

        {rig && laid && (
          <RollRow
            rig={rigIndex}
            beads={rig.facing.rollAt ?? []}
            roll={laid.roll}
            twist={laid.twist}
            x={x}
            length={length}
            svg={svg}
          />
        )}
        {rig &&
          laid &&
          flipsOf(laid.comb).map((tooth) => {
            // A closed path's comb has no tooth at its end.
            const at = x((length * tooth) / (laid.comb.length / 6 - (info.closed ? 0 : 1)))
            return (
              <path key={tooth} d={`M${at} ${rows.roll - 10}l-4 -6h8z`} fill={roles.red} data-testid="strip-flip">
                <title>Up flips here</title>
              </path>
            )
          })}
        {whereX !== null && (
          <>
            <line x1={whereX} x2={whereX} y1={rows.pieces + 5} y2={rows.ruler} stroke={checkText} strokeWidth="1.2" />
            <circle cx={whereX} cy={rows.pieces} r="5.5" fill="none" stroke={checkText} strokeWidth="1.6" />
            <text
              x={Math.min(Math.max(whereX, gutter + 130), width - 120)}
              y={rows.marks - 1}
              textAnchor="middle"
              fontWeight="500"
              fill={checkText}
            >
              {rig?.body ? '' : `piece ${shownCheck!.where!.piece}, `}
              {shownCheck!.word}
            </text>
          </>
        )}

        <Ruler x={x} length={length} perUnit={perUnit} colour={roles.secondary} y={rows.ruler} />
        {rig && now && !rig.body && (
          <rect
            x={gutter - 8}
            y={rows.pieces - 9}
            width={x(length) - gutter + 16}
            height={18}
            fill="transparent"
            style={{ cursor: 'grab', touchAction: 'none' }}
            data-testid="strip-pieces"
            onPointerMove={(e) =>
              useView.getState().hoverPiece(nearest(now.distances, x.invert(local(svg, e.clientX))))
            }
            onPointerLeave={() => useView.getState().hoverPiece(null)}
            onPointerDown={(e) => {
              if (e.button !== 0) return
              e.preventDefault()
              const at = x.invert(local(svg, e.clientX))
              pullPiece(rigIndex, nearest(now.distances, at), e, (cx) => x.invert(local(svg, cx)))
            }}
          >
            <title>Pull a piece along the path</title>
          </rect>
        )}
      </svg>
    </Box>
  )
}

/** The start mark of a loop, pulled along the strip. */
function pullStart(path: number, length: number, from: React.PointerEvent, where: (clientX: number) => number) {
  const bench = useBench.getState()
  const base = bench.doc?.paths[path]
  if (from.button !== 0 || !base) return
  from.preventDefault()
  const grabbed = where(from.clientX)
  let moved = false
  follow(
    (e) => {
      moved = true
      bench.preview((d) => {
        const fresh = JSON.parse(JSON.stringify(base)) as Path
        movedStart(fresh, where(e.clientX) - grabbed, length)
        d.paths[path] = fresh
      })
    },
    (kept) => {
      if (!moved) return
      if (kept) useBench.getState().commit(`move the start of ${base.name}`)
      else useBench.getState().cancel()
    },
  )
}

const clamp = (s: number, length: number) => Math.min(Math.max(s, 0), length)

function niceAbove(v: number): number {
  const power = 10 ** Math.floor(Math.log10(v))
  return ([1, 1.5, 2, 3, 5, 7.5, 10].find((k) => k * power >= v * 0.999) ?? 10) * power
}

function nearest(distances: Float64Array, at: number): number {
  let best = 0
  for (let i = 1; i < distances.length; i++) {
    if (Math.abs(distances[i]! - at) < Math.abs(distances[best]! - at)) best = i
  }
  return best
}

/** The pieces as beads on the thread, as ticks where there are many. */
function Ruler({
  x,
  length,
  perUnit,
  colour,
  y,
}: {
  x: (s: number) => number
  length: number
  perUnit: number
  colour: string
  y: number
}) {
  const pixels = x(length) - x(0)
  const wish = ((length / perUnit) * 72) / pixels
  const power = 10 ** Math.floor(Math.log10(wish))
  const step = ([1, 2, 5, 10].find((k) => k * power >= wish) ?? 10) * power
  const total = length / perUnit
  const marks: React.ReactNode[] = []
  for (let i = 0; i * step <= total * (1 + 1e-9); i++) {
    const at = x(i * step * perUnit)
    const crowded = pixels - (at - x(0)) < 34 && total - i * step > 1e-9
    marks.push(
      <g key={i}>
        <line x1={at} x2={at} y1={y} y2={y + 5} stroke={colour} />
        {!crowded && (
          <text x={at} y={y + 17} textAnchor="middle" fontFamily={mono} fill={colour}>
            {Number((i * step).toPrecision(6))}
          </text>
        )}
      </g>,
    )
  }
  let fine = ''
  for (let i = 0; i * (step / 10) <= total; i++) fine += `M${x(i * (step / 10) * perUnit).toFixed(1)} ${y}v3`
  return (
    <>
      <line x1={x(0)} x2={x(length)} y1={y} y2={y} stroke={colour} />
      <path d={fine} stroke={colour} strokeWidth="0.7" />
      {marks}
      <text x={x(length)} y={y + 17} textAnchor="middle" fontFamily={mono} fill={colour}>
        {Math.abs(total / step - Math.round(total / step)) < 1e-6 ? '' : Number(total.toFixed(2))}
      </text>
    </>
  )
}

/** The names that keep clear of each other and of the marks; the longest contacts go first. */
function thinned<N extends { name: string; at: number; wide: number }>(names: N[], from: number, to: number): N[] {
  const kept: N[] = []
  const half = (n: N) => n.name.length * 3 + 5
  for (const n of [...names].sort((a, b) => b.wide - a.wide)) {
    const clear = kept.every((k) => Math.abs(k.at - n.at) > half(k) + half(n))
    if (clear && n.at - half(n) > from && n.at + half(n) < to) kept.push(n)
  }
  return kept
}
