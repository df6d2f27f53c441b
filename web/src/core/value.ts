import type { Document, Path, PathShape, Rig } from './page.generated'

export type { Document }

/** The version of documents that the page knows. */
export const documentVersion: Document['bead'] = 2

/** A number that may move, as documents hold it. */
export type Value = Rig['travel']
export type Keyed = Extract<Value, { keys: unknown }>
export type Key = Keyed['keys'][number]
export type Ends = NonNullable<Keyed['after']>

export const isKeyed = (v: Value | undefined): v is Keyed => typeof v === 'object' && 'keys' in v
export type Rolling = Extract<Value, { rolls: unknown }>
/** What a value comes from, by the field that tells it. */
export type Source = 'set' | 'keys' | 'speed' | 'rpm' | 'turns' | 'of' | 'rolls'

/** Whether a scene is meant to end with its range: what it says, or else whether something arrives or leaves. */
export const playsOnce = (d: Document): boolean =>
  d.plays ? d.plays === 'once' : d.rigs.some((r) => !!(r.train?.arrive ?? r.train?.leave ?? r.train?.fall))

export function sourceOf(v: Value | undefined): Source {
  if (typeof v !== 'object') return 'set'
  return (['keys', 'speed', 'rpm', 'turns', 'of', 'rolls'] as const).find((s) => s in v) ?? 'set'
}

/** The keys of v with one at the frame set to value, in order. */
export function withKey(v: Value, frame: number, value: number): Value {
  const keys: Key[] = isKeyed(v) ? v.keys.filter((k) => k.frame !== frame) : []
  const before = [...keys].reverse().find((k) => k.frame < frame)
  const shape = before?.shape ?? keys[0]?.shape ?? 'straight'
  const all = [...keys, { frame, value, shape }].sort((a, b) => a.frame - b.frame)
  return isKeyed(v) ? { ...v, keys: all } : { keys: all, after: 'hold' }
}

/** The keys of v without the one at the frame; the last one leaves a constant. */
export function withoutKey(v: Value, frame: number): Value {
  if (!isKeyed(v)) return v
  const keys = v.keys.filter((k) => k.frame !== frame)
  return keys.length > 0 ? { ...v, keys } : (v.keys[0]?.value ?? 0)
}

/** v with its key at a frame taken out, or, where there is none, set; and what that is called. */
export function toggledKey(v: Value, frame: number, present: number, name: string): [Value, string] {
  return isKeyed(v) && v.keys.some((k) => k.frame === frame)
    ? [withoutKey(v, frame), `take out a key of ${name}`]
    : [withKey(v, frame, present), `key ${name}`]
}

/** v with everything it says moved by delta at a frame: its constant, its start, or a key there. */
export function shifted(v: Value, delta: number, frame: number, present: number): Value {
  if (isKeyed(v)) return withKey(v, frame, present + delta)
  if (typeof v !== 'object') return v + delta
  if ('of' in v) return { ...v, offset: (v.offset ?? 0) + delta }
  return { ...v, start: (v.start ?? 0) + delta }
}

/** The one kind of shape that a path has. */
type ShapeKind = keyof PathShape
export function shapeKind(p: PathShape): ShapeKind {
  return (Object.keys(p) as ShapeKind[]).find((k) => p[k] !== undefined) ?? 'line'
}

/** A name that no other of the list has: "Loop", "Loop 2", ... */
export function freeName(taken: { name: string }[], wish: string): string {
  const names = new Set(taken.map((t) => t.name))
  let name = wish
  for (let n = 2; names.has(name); n++) name = `${wish} ${n}`
  return name
}

/** An id made from a name that no other of the list has. */
export function freeId(taken: { id: string }[], name: string): string {
  const ids = new Set(taken.map((t) => t.id))
  const base = (
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '') || 'item'
  ).slice(0, 48)
  let id = base
  for (let n = 2; ids.has(id); n++) id = `${base}-${n}`
  return id
}

/** The id of the path that is being drawn, while it is: shown, and never kept. */
export const drawnPath = 'being-drawn'

/** Adds a path under a free id and name and returns its id. */
export function addPath(d: Document, name: string, shape: PathShape): string {
  const path: Path = { id: freeId(d.paths, name), name: freeName(d.paths, name), shape }
  d.paths.push(path)
  return path.id
}

/** Sets the field at a JSON pointer (RFC 6901). */
export function setAt(doc: object, pointer: string, value: unknown): void {
  const steps = pointer
    .split('/')
    .slice(1)
    .map((s) => s.replaceAll('~1', '/').replaceAll('~0', '~'))
  let node = doc as Record<string, unknown>
  for (const s of steps.slice(0, -1)) node = node[s] as Record<string, unknown>
  node[steps.at(-1)!] = value
}
