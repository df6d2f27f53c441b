import { line as lineOf } from 'd3-shape'
import { scaleLinear } from 'd3-scale'
import type { CurveReadout, Document } from '../../core/page.generated'
import type { Slot } from '../../core/slots'
import { isKeyed, type Key } from '../../core/value'
import type { Roles } from '../../look/theme'
import { gutter } from '../fields/measure'

// What the graph shows: values, their scales and their keys, without React.

export type GraphMode = 'value' | 'speed' | 'in step'

/** A box of the plot: left, top, right, bottom. */
export type Area = [number, number, number, number]

export interface Zoom {
  k: number
  shift: number
}

type Scale = ReturnType<typeof scaleLinear<number, number>>
type Curve = CurveReadout & { field: string }

/** Line and text of a value: three of the theme's colours, and shades of them for more. */
export function colourOf(i: number, roles: Roles): [string, string] {
  const all: [string, string][] = [
    [roles.orange, roles.orangeText],
    [roles.kelp, roles.kelpText],
    [roles.brass, roles.brassText],
    [roles.slate, roles.secondary],
    [roles.ink, roles.ink],
  ]
  return all[i % all.length]!
}

/** What of a scene the graph is of, and the room that it has. */
export interface Asked {
  doc: Document
  slots: Slot[]
  values: CurveReadout[] | undefined
  range: Document['range']
  mode: GraphMode
  width: number
  height: number
  zoom: Zoom
}

export interface Graphed extends Asked {
  /** The keys of the values, in their order. */
  movings: string[]
  at: (m: string) => Slot
  /** Those that move, with their curves. */
  shown: Curve[]
  keysOf: (m: string) => Key[]
  /** The numbers of a curve that are shown: its values, or its speed. */
  listOf: (c: Curve) => number[]
  /** The line and text of a value. */
  colours: (m: string, roles: Roles) => [string, string]
  /** From frames and values to places. Each quantity has a scale of its own; all share zoom and shift. */
  x: Scale
  scales: Record<string, Scale>
}

export function graphed(asked: Asked): Graphed {
  const { doc, slots, values, range, mode, width, height, zoom } = asked
  const movings = slots.map((s) => s.key)
  const slotBy = Object.fromEntries(slots.map((s) => [s.key, s])) as Record<string, Slot>
  const at = (m: string) => slotBy[m]!
  const shown = slots.flatMap((s) => {
    const c = values?.find((v) => v.ref === s.ref)
    return c ? [{ ...c, field: s.key }] : []
  })
  const keysOf = (m: string) => {
    const v = at(m).get(doc)
    return isKeyed(v) ? v.keys : []
  }
  const listOf = (c: Curve) => (mode === 'value' ? c.values : c.speed)
  // Values that move have colours of their own; they come before those that do not.
  const order = (m: string) => {
    const i = shown.findIndex((c) => c.field === m)
    return i < 0 ? shown.length + movings.indexOf(m) : i
  }
  const mid = height / 2
  const scaleOf = (m: string): Scale => {
    const like = shown.filter((c) => at(c.field).quantity === at(m).quantity)
    const all = like.flatMap((c) => {
      const from = Math.max(Math.floor((range.first - c.first) / c.step), 0)
      const to = Math.ceil((range.last - c.first) / c.step) + 1
      return listOf(c).slice(from, to)
    })
    const keys = mode === 'value' ? keysOf(m).map((k) => k.value) : []
    let lo = Math.min(...all, ...keys)
    let hi = Math.max(...all, ...keys)
    if (!(hi >= lo)) [lo, hi] = [0, 1]
    if (hi - lo < 1e-9) [lo, hi] = [lo - 0.5, hi + 0.5]
    const base = scaleLinear([lo, hi], [height - 14, 14])
    return base.copy().range(base.range().map((p) => mid + (p - mid) * zoom.k + zoom.shift))
  }
  return {
    ...asked,
    movings,
    at,
    shown,
    keysOf,
    listOf,
    colours: (m, roles) => colourOf(order(m), roles),
    x: scaleLinear([range.first, Math.max(range.last, range.first + 1)], [gutter + 4, width - 24]),
    scales: Object.fromEntries(movings.map((m) => [m, scaleOf(m)])),
  }
}

/** The line of a curve. */
export const lineIn = (g: Graphed, c: Curve) =>
  lineOf<number>()
    .x((_, i) => g.x(c.first + i * c.step))
    .y((v) => g.scales[c.field]!(v))(g.listOf(c)) ?? ''

/** Where names stand: at the ends of their lines, one above the other where those meet. */
export function namesIn(g: Graphed): Record<string, number> {
  const at: Record<string, number> = {}
  let free = g.height - 4
  const ends = g.shown.map((c) => ({
    m: c.field,
    y: g.scales[c.field]!(g.listOf(c)[Math.round((g.range.last - c.first) / c.step)] ?? 0) - 6,
  }))
  for (const c of ends.sort((a, b) => b.y - a.y)) {
    at[c.m] = Math.max(Math.min(c.y, free), 11)
    free = at[c.m]! - 13
  }
  return at
}

/** The zoom after a turn of the wheel at a height of the plot. */
export function zoomed(z: Zoom, height: number, at: number, delta: number): Zoom {
  const k = Math.min(Math.max(z.k * Math.exp(-delta / 600), 0.2), 200)
  const from = at - height / 2
  return { k, shift: from - (from - z.shift) * (k / z.k) }
}
