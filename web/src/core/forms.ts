import all from './forms.json'
import type { Fabric, Material, PartShape, PathShape, Step } from './page.generated'
import type { RigKind, Seat } from './rigs'
import type { Quantity } from './units'
import { shapeKind } from './value'

// What can be made and the fields of all kinds, as the core states them ('make types').

export type Vec3 = [number, number, number]

/** One field of a form: a number by its quantity, or what is named. */
export interface Field {
  key: string
  label: string
  kind: Quantity | 'place' | 'choice' | 'switch' | 'moving'
  unit?: string
  min?: number
  max?: number
  /** What is shown where it is left out. */
  fallback?: number | string
  /** Said while Bead finds the number itself; and the field whose number it starts with when it is typed. */
  auto?: string
  like?: string
  /** A new one begins with a share of the path's length. */
  scaled?: boolean
  /** Of a choice. */
  options?: string[]
  names?: Record<string, string>
  /** Of a switch. */
  off?: string
  on?: string
}

interface Kind {
  key: string
  /** Parts have none: their menu names them. */
  name: string
  text?: string
  loop?: boolean
  first?: object
  /** Of a kind of rig. */
  seat?: Seat
  fields: Field[]
}

const { shapes, steps, parts, rigs } = all as unknown as Record<'shapes' | 'steps' | 'parts' | 'rigs', Kind[]>

type ShapeKind = keyof PathShape
export type StepKind = Exclude<keyof Step, 'off'>

const byKey = <K extends string>(list: Kind[]) => Object.fromEntries(list.map((k) => [k.key, k])) as Record<K, Kind>

export const shapeForms = byKey<ShapeKind>(shapes)
export const stepForms = byKey<StepKind>(steps)
export const partForms = byKey<keyof PartShape>(parts)
export const rigForms = byKey<RigKind>(rigs)

/** The fields of what cloth is of and of what is about it, and fabrics to begin with. */
export const fabricFields = all.fabric as Field[]
export const flowFields = all.flow as Field[]
export const fabrics = all.fabrics as { name: string; fabric: Fabric }[]

/** What checks are called and what they compare, by their ids. */
export const checkWords: Record<string, { name: string; means: string; signed?: boolean }> = Object.fromEntries(
  all.checks.map((c) => [c.id, c]),
)

/** What becomes of a field that names a thing when that thing is removed. */
export type Gone = '' | 'thing' | 'whole' | 'entry'

/** The fields of documents that name other things. */
export const references = all.references as {
  at: string
  kind: 'rig' | 'path' | 'part' | 'fixture' | 'carrier' | 'material'
  gone?: Gone
}[]

/** A field whose value may move; what its words mean stands in core/scene/slots.go. */
export interface Moving {
  at: string
  key: string
  quantity: Quantity
  word?: string
  when?: string
  else?: number
}

export const movings = all.movings as Moving[]

/** What a number has to lie between. */
export interface Limit {
  min?: number
  max?: number
}

/** Where numbers without a form are in documents, entries of lists as *. */
export type LimitedField = keyof typeof all.limits

export const limits: Record<LimitedField, Limit> = all.limits

/** Materials to begin with. */
export const palette = all.palette as Material[]

/** Paths and parts that can be begun with. */
export const newPaths = shapes.filter((k) => k.first).map((k): [string, PathShape] => [k.name, { [k.key]: k.first }])
export const newParts = (all.newParts as { name: string; shape: PartShape }[]).map((p): [string, PartShape] => [
  p.name,
  p.shape,
])

const nice = (v: number) => Number(v.toPrecision(1))

/** A first setting of a step on a path of this length. */
export function firstStep(kind: StepKind, length: number): Step {
  const form = stepForms[kind]
  const first = { ...form.first } as Record<string, unknown>
  for (const f of form.fields) if (f.scaled) first[f.key] = nice((first[f.key] as number) * length)
  return { [kind]: first }
}

/** Whether a shape is a closed one before its steps. */
export function isLoop(s: PathShape): boolean {
  const kind = shapeKind(s)
  if (s.wrap?.ends) return false
  return !!shapeForms[kind].loop || !!(s[kind] as { closed?: boolean } | undefined)?.closed
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

/**
 * What can be pulled of a shape: its points, then the start of an open belt, or the two ends of a line or
 * hanging line.
 */
export function handlesOf(s: PathShape): Vec3[] | null {
  if (s.wrap?.ends) return [...s.wrap.wheels.map((w) => w.at), s.wrap.ends.from]
  const line = s.hang ?? s.line
  return pointsOf(s) ?? (line ? [line.from, line.to] : null)
}

/** Puts a point or end of a shape elsewhere. */
export function putPoint(s: PathShape, i: number, to: Vec3) {
  if (s.spline) s.spline.points[i]!.at = to
  else if (s.wrap?.ends && i === s.wrap.wheels.length) s.wrap.ends.from = to
  else if (s.wrap) s.wrap.wheels[i]!.at = to
  else if (s.hang ?? s.line) (s.hang ?? s.line)![i === 0 ? 'from' : 'to'] = to
  else (s.polyline ?? s.bspline ?? s.over)!.points[i] = to
}
