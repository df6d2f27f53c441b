import type { PathShape, Step } from './page.generated'
import type { Quantity } from './units'
import type { ShapeKind } from './value'

// What the fields of shapes and shaping steps are, so that one component draws all.

export type Vec3 = [number, number, number]

export type Field = { key: string; label: string } & (
  | {
      kind: 'number'
      quantity: Quantity
      unit?: string
      min?: number
      max?: number
      whole?: boolean
      fallback?: number
      /** May be left out. */
      optional?: boolean
    }
  | { kind: 'place' }
  | { kind: 'choice'; options: readonly string[]; names?: Record<string, string>; fallback: string }
  | { kind: 'switch'; off: string; on: string }
  /** A value that may move. */
  | { kind: 'moving' }
)

const length = (key: string, label: string, min = 0.001): Field => ({
  key,
  label,
  kind: 'number',
  quantity: 'length',
  min,
})
const distance = (key: string, label: string, min = 0): Field => ({
  key,
  label,
  kind: 'number',
  quantity: 'distance',
  min,
})
const count = (key: string, label: string, unit: string, min: number, max: number): Field => ({
  key,
  label,
  kind: 'number',
  quantity: 'count',
  unit,
  min,
  max,
  whole: true,
})
const place = (key: string, label: string): Field => ({ key, label, kind: 'place' })
const choice = (
  key: string,
  label: string,
  options: readonly string[],
  fallback: string,
  names?: Record<string, string>,
): Field => ({ key, label, kind: 'choice', options, fallback, names })
const plane = choice('plane', 'Plane', ['side', 'ahead', 'above'], 'side')

export const shapeFields: Partial<Record<ShapeKind, Field[]>> = {
  line: [place('from', 'From'), place('to', 'To')],
  hang: [distance('length', 'Length'), place('from', 'From'), place('to', 'To')],
  circle: [length('radius', 'Radius'), place('centre', 'Centre'), plane],
  ellipse: [length('along', 'Half axis along'), length('across', 'Half axis across'), place('centre', 'Centre'), plane],
  slot: [length('length', 'Straights', 0), length('radius', 'Radius'), place('centre', 'Centre'), plane],
  rectangle: [
    length('length', 'Length'),
    length('height', 'Height'),
    length('radius', 'Corner radius', 0),
    place('centre', 'Centre'),
    plane,
  ],
  arch: [
    length('width', 'Width'),
    length('height', 'Height'),
    length('radius', 'Corner radius', 0),
    { key: 'arc', label: 'Form', kind: 'switch', off: 'legs and corners', on: 'one arc' },
    choice('open', 'Open side', ['below', 'above', 'ahead', 'behind'], 'below'),
    place('base', 'Base, between its feet'),
    plane,
  ],
  helix: [
    length('radius', 'Radius'),
    { ...length('endRadius', 'End radius', 0), label: 'End radius, 0: same' },
    length('rise', 'Rise a turn', -1e6),
    { key: 'turns', label: 'Turns', kind: 'number', quantity: 'plain', min: 0.001, max: 1000 },
    { ...distance('leadIn', 'Lead-in'), fallback: 0 } as Field,
    { ...distance('leadOut', 'Lead-out'), fallback: 0 } as Field,
    { key: 'begin', label: 'Begins at', kind: 'number', quantity: 'angle', fallback: 0 },
    choice('hand', 'Hand', ['right', 'left'], 'right'),
    choice('axis', 'Axis', ['up', 'forward', 'side'], 'up'),
    place('base', 'Base of its axis'),
  ],
}

export type StepKind = Exclude<keyof Step, 'off'>

interface StepForm {
  name: string
  /** What it is for, in the menu. */
  text: string
  fields: Field[]
  /** A first setting for a path of this length. */
  first: (length: number) => object
}

const nice = (v: number) => Number(v.toPrecision(1))

export const stepForms: Record<StepKind, StepForm> = {
  reverse: { name: 'Reverse', text: 'run the other way', fields: [], first: () => ({}) },
  startAt: {
    name: 'Start at',
    text: 'move the start mark of a loop',
    fields: [distance('distance', 'Distance', -1e6)],
    first: (l) => ({ distance: nice(l / 4) }),
  },
  close: {
    name: 'Close',
    text: 'join end to start',
    fields: [{ key: 'smooth', label: 'With', kind: 'switch', off: 'a straight', on: 'a curve' }],
    first: () => ({}),
  },
  open: {
    name: 'Open',
    text: 'part a loop at its seam',
    fields: [{ ...distance('gap', 'Gap left'), fallback: 0 } as Field],
    first: () => ({}),
  },
  extend: {
    name: 'Extend',
    text: 'lengthen either end',
    fields: [
      { ...distance('before', 'Before the start'), fallback: 0 } as Field,
      { ...distance('after', 'Behind the end'), fallback: 0 } as Field,
      { key: 'curved', label: 'Going on', kind: 'switch', off: 'straight', on: 'in the bend' },
    ],
    first: (l) => ({ after: nice(l / 10) }),
  },
  trim: {
    name: 'Trim',
    text: 'keep a stretch',
    fields: [distance('from', 'From'), { ...distance('to', 'To, 0: the end'), fallback: 0 } as Field],
    first: (l) => ({ from: 0, to: nice(l * 0.8) }),
  },
  join: {
    name: 'Join',
    text: 'other paths behind this one',
    fields: [
      { ...length('snap', 'Snap gaps up to', 0), fallback: 0 } as Field,
      { key: 'smooth', label: 'Bridge gaps with', kind: 'switch', off: 'straights', on: 'curves' },
      { key: 'keepDirection', label: 'Paths that run the wrong way', kind: 'switch', off: 'turn round', on: 'keep' },
    ],
    first: () => ({ paths: [] }),
  },
  subdivide: {
    name: 'Subdivide',
    text: 'more spans, same shape',
    fields: [count('parts', 'Each span into', 'parts', 2, 64)],
    first: () => ({ parts: 2 }),
  },
  resample: {
    name: 'Resample',
    text: 'points evenly along',
    fields: [
      count('count', 'Points', 'points', 3, 20000),
      { key: 'straight', label: 'Joined', kind: 'switch', off: 'smoothly', on: 'straight' },
    ],
    first: () => ({ count: 24 }),
  },
  simplify: {
    name: 'Rebuild',
    text: 'fewer points within a tolerance',
    fields: [length('tolerance', 'Tolerance', 1e-6)],
    first: (l) => ({ tolerance: nice(l / 1000) }),
  },
  round: {
    name: 'Round corners',
    text: 'bends in place of corners',
    fields: [length('radius', 'Radius', 0)],
    first: (l) => ({ radius: nice(l / 40) }),
  },
  smooth: {
    name: 'Smooth',
    text: 'even out what is fine',
    fields: [length('reach', 'Reach', 1e-6)],
    first: (l) => ({ reach: nice(l / 50) }),
  },
  offset: {
    name: 'Offset',
    text: 'a parallel path',
    fields: [
      length('distance', 'Out of the loop, or left', -1e6),
      choice('plane', 'Moved in', ['', 'side', 'ahead', 'above'], '', { '': 'its own plane' }),
    ],
    first: (l) => ({ distance: nice(l / 50) }),
  },
  mirror: {
    name: 'Mirror',
    text: 'in a plane',
    fields: [choice('axis', 'Across', ['x', 'y', 'z'], 'x'), { ...distance('at', 'At', -1e6), fallback: 0 } as Field],
    first: () => ({ axis: 'x' }),
  },
  jitter: {
    name: 'Jitter',
    text: 'a wavering hand, seeded',
    fields: [
      length('amount', 'Amount', 0),
      length('grain', 'Grain', 1e-4),
      count('seed', 'Seed', '', -1e9, 1e9),
      { ...count('beats', 'Beats over the range', '', 0, 1000), fallback: 0 } as Field,
      choice('direction', 'Direction', ['side', 'up', 'all'], 'all'),
      { key: 'floor', label: 'Below the ground', kind: 'switch', off: 'may go', on: 'never' },
    ],
    first: (l) => ({ seed: 1, amount: nice(l / 200), grain: nice(l / 12), direction: 'all', floor: true }),
  },
  wave: {
    name: 'Wave',
    text: 'runs along the path: slither',
    fields: [
      { key: 'side', label: 'Sideways', kind: 'moving' },
      { key: 'up', label: 'Up, down', kind: 'moving' },
      length('wavelength', 'Wavelength', 1e-4),
      { key: 'phase', label: 'Phase', kind: 'moving' },
    ],
    first: (l) => ({ side: nice(l / 40), wavelength: nice(l / 4), phase: { speed: -1 } }),
  },
  lag: {
    name: 'Lag',
    text: 'comes after, and swings past',
    fields: [
      { ...distance('from', 'Gives way from', -1e6), fallback: 0 } as Field,
      { ...distance('to', 'Wholly at, 0: end', -1e6), fallback: 0 } as Field,
      { key: 'frequency', label: 'Swings a second', kind: 'number', quantity: 'plain', min: 0.001, max: 1000 },
      { key: 'damping', label: 'Damping, 1: no swing', kind: 'number', quantity: 'plain', min: 0, max: 100 },
      { key: 'first', label: 'From frame', kind: 'number', quantity: 'frame', whole: true, optional: true },
      { key: 'last', label: 'Up to frame', kind: 'number', quantity: 'frame', whole: true, optional: true },
    ],
    first: () => ({ frequency: 1.5, damping: 0.4 }),
  },
  drop: {
    name: 'Drop to ground',
    text: 'touch or lie on it',
    fields: [
      { ...length('clearance', 'Clearance', -1e6), fallback: 0 } as Field,
      { key: 'flat', label: 'Lowered', kind: 'switch', off: 'as it is', on: 'every point' },
    ],
    first: () => ({ clearance: 0 }),
  },
}

export function stepKind(s: Step): StepKind {
  return (Object.keys(s) as (keyof Step)[]).find((k) => k !== 'off' && s[k] !== undefined) as StepKind
}

/** The points that shape a path and can be pulled, as the document holds them. */
export function pointsOf(s: PathShape): Vec3[] | null {
  return (
    s.spline?.points.map((p) => p.at) ??
    s.wrap?.wheels.map((w) => w.at) ??
    s.polyline?.points ??
    s.bspline?.points ??
    s.over?.points ??
    null
  )
}

/** Puts a point of a shape elsewhere. */
export function putPoint(s: PathShape, i: number, to: Vec3) {
  if (s.spline) s.spline.points[i]!.at = to
  else if (s.wrap) s.wrap.wheels[i]!.at = to
  else (s.polyline ?? s.bspline ?? s.over)!.points[i] = to
}
