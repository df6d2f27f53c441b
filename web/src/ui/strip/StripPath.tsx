import { useTheme } from '@mui/material/styles'
import { type ScaleLinear, scaleLinear } from 'd3-scale'
import { area, line as lineOf } from 'd3-shape'
import { useMemo } from 'react'
import type { Path, PathReadout } from '../../core/page.generated'
import { movedStart } from '../../core/start'
import { wheelStride } from '../../core/wire'
import { mono } from '../../look/theme'
import { follow } from '../../scene/pointing'
import { useBench } from '../../stores/bench'
import { gutter } from '../fields/measure'
import { local, rows, trim } from './rows'

/** What the strip's parts about the path are given: its place in the scene, what the program measured and the scale. */
interface OfPath {
  index: number
  path: Path
  info: PathReadout
  /** Distances along the path to pixels of the strip. */
  x: ScaleLinear<number, number>
}

/** How sharply the path turns: above the line with the loop, below it against. */
export function Curvature({ info, x }: Pick<OfPath, 'info' | 'x'>) {
  const { roles } = useTheme()
  const length = info.length
  const curvature = useMemo(() => {
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
  return (
    <>
      <path d={curvature.fill} fill={roles.kelp} opacity={0.2} />
      <path d={curvature.line} fill="none" stroke={roles.kelp} strokeWidth="1.2" />
      <line
        x1={gutter}
        x2={x(length)}
        y1={curvature.zero}
        y2={curvature.zero}
        stroke={roles.border}
        strokeWidth="0.8"
      />
      {curvature.top > 0 && (
        <>
          <line
            x1={gutter}
            x2={x(length)}
            y1={curvature.y}
            y2={curvature.y}
            stroke={roles.rule}
            strokeDasharray="1.5 2.5"
          />
          <text x={gutter - 8} y={curvature.y + 4} textAnchor="end" fontFamily={mono} fill={roles.secondary}>
            {trim(curvature.top)}/m
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
    </>
  )
}

/** The seam of a closed path, the start mark of any; a loop's start can be pulled. */
export function Ends({ index, info, x, svg }: Omit<OfPath, 'path'> & { svg: React.RefObject<SVGSVGElement | null> }) {
  const { roles } = useTheme()
  const length = info.length
  return (
    <>
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
              info.closed && !i ? (e) => pullStart(index, length, e, (cx) => x.invert(local(svg, cx))) : undefined
            }
          >
            {info.closed && !i && <title>Pull along to move where the loop starts</title>}
            {info.closed ? (i ? 'seam' : 'start, seam') : i ? 'end' : 'start'}
          </text>
        </g>
      ))}
    </>
  )
}

/** Where wheels touch the path at the shown frame, with the names that have room. */
export function Contacts({ index, path, info, x }: OfPath) {
  const { roles } = useTheme()
  const length = info.length
  const turning = useBench((b) => b.shot.wheels[index])
  const contacts = useMemo(
    () =>
      (info.wheels ?? []).map((w, i) => {
        const o = wheelStride * i
        if (!turning || turning.length < o + wheelStride) return w
        return { touches: turning[o + 7] !== 0, from: turning[o + 8]!, to: turning[o + 9]! }
      }),
    [info, turning],
  )
  const named = useMemo(
    () =>
      thinned(
        contacts.flatMap((w, i) => {
          const name = path.shape.wrap?.wheels[i]?.name
          return w.touches && name ? [{ key: i, name, at: x(((w.from + w.to) / 2) % length), wide: w.to - w.from }] : []
        }),
        x(0) + (info.closed ? 66 : 30),
        x(length) - 32,
      ),
    [contacts, path, x, length, info.closed],
  )
  return (
    <>
      {named.length > 0 && (
        <text x={16} y={rows.marks - 1} fill={roles.secondary}>
          wheels
        </text>
      )}
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
              <title>{path.shape.wrap?.wheels[i]?.name}</title>
            </g>
          ),
      )}
      {named.map((w) => (
        <text key={w.key} x={w.at} y={rows.marks - 1} textAnchor="middle" fill={roles.secondary} data-testid="wheel">
          {w.name}
        </text>
      ))}
    </>
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

function niceAbove(v: number): number {
  const power = 10 ** Math.floor(Math.log10(v))
  return ([1, 1.5, 2, 3, 5, 7.5, 10].find((k) => k * power >= v * 0.999) ?? 10) * power
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
