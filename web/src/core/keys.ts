import type { Body, Document } from './page.generated'
import { rigForms } from './forms'
import { blendsOf, kindOf } from './rigs'
import type { Quantity } from './units'
import { isKeyed, type Key, type Value } from './value'

// What can be done to keys of several values at once, without React.

/** A value of a rig, carrier or tug that may move. */
export interface Slot {
  /** What it is called among its owner's values. */
  key: string
  /** The name by which drives and the readout know it. */
  ref: string
  quantity: Quantity
  /** For people, where the key does not say it. */
  name?: string
  /** Of a wave: the number of its shaping step. */
  step?: number
  get: (d: Document) => Value
  put: (d: Document, v: Value) => void
}

const axes = ['x', 'y', 'z'] as const
const turns = ['heading', 'pitch', 'bank'] as const

/** The values of a thing that may move; none of a path or part. */
export function slotsOf(d: Document, kind: string | undefined, id: string | undefined): Slot[] {
  if (kind === 'rig') {
    const i = d.rigs.findIndex((r) => r.id === id)
    if (i < 0) return []
    return [
      slot(
        'rigs',
        id!,
        'travel',
        'distance',
        (d) => d.rigs[i]!.travel,
        (d, v) => void (d.rigs[i]!.travel = v),
      ),
      slot(
        'rigs',
        id!,
        'offset',
        'length',
        (d) => d.rigs[i]!.offset,
        (d, v) => void (d.rigs[i]!.offset = v),
      ),
      slot(
        'rigs',
        id!,
        'roll',
        'angle',
        (d) => d.rigs[i]!.facing.roll,
        (d, v) => void (d.rigs[i]!.facing.roll = v),
      ),
      ...bodySlots(d, i, id!),
      ...layerSlots(d, i, id!),
      ...kindSlots(d, i, id!),
    ]
  }
  if (kind === 'path') return waveSlots(d, id)
  if (kind === 'carrier') {
    const i = d.carriers?.findIndex((c) => c.id === id) ?? -1
    if (i < 0) return []
    const of = (d: Document) => d.carriers![i]!
    return [
      ...(of(d).ride
        ? [
            slot(
              'carriers',
              id!,
              'distance',
              'distance',
              (d) => of(d).ride?.distance,
              (d, v) => void (of(d).ride!.distance = v),
            ),
          ]
        : []),
      ...axes.map((a, k) =>
        slot(
          'carriers',
          id!,
          a,
          'distance',
          (d) => of(d).at[k],
          (d, v) => void (of(d).at[k] = v),
        ),
      ),
      ...turns.map((t) =>
        slot(
          'carriers',
          id!,
          t,
          'angle',
          (d) => of(d).turn?.[t],
          (d, v) => void ((of(d).turn ??= {})[t] = v),
        ),
      ),
    ]
  }
  if (kind === 'camera') return cameraSlots(d, id!)
  if (kind === 'tug') {
    const i = d.tugs?.findIndex((t) => t.id === id) ?? -1
    if (i < 0) return []
    const of = (d: Document) => d.tugs![i]!
    return axes.map((a, k) =>
      slot(
        'tugs',
        id!,
        a,
        'length',
        (d) => of(d).pull?.[k],
        (d, v) => void ((of(d).pull ??= [0, 0, 0])[k] = v),
      ),
    )
  }
  return []
}

/** The values of a camera. */
function cameraSlots(d: Document, id: string): Slot[] {
  const i = d.cameras?.findIndex((c) => c.id === id) ?? -1
  if (i < 0) return []
  const of = (d: Document) => d.cameras![i]!
  const one = (
    key: string,
    quantity: Quantity,
    get: (d: Document) => Value | undefined,
    put: (d: Document, v: Value) => void,
  ) => slot('cameras', id, key, quantity, get, put)
  return [
    ...(of(d).ride
      ? [
          one(
            'distance',
            'distance',
            (d) => of(d).ride?.distance,
            (d, v) => void (of(d).ride!.distance = v),
          ),
        ]
      : []),
    ...axes.map((a, k) =>
      one(
        a,
        'distance',
        (d) => of(d).at[k],
        (d, v) => void (of(d).at[k] = v),
      ),
    ),
    ...turns.map((t) =>
      one(
        t,
        'angle',
        (d) => of(d).turn?.[t],
        (d, v) => void ((of(d).turn ??= {})[t] = v),
      ),
    ),
    ...(of(d).aim
      ? axes.map((a, k) => ({
          ...one(
            `aim-${a}`,
            'distance',
            (d) => of(d).aim?.at?.[k],
            (d, v) => void ((of(d).aim!.at ??= [0, 0, 0])[k] = v),
          ),
          name: `aim ${a}`,
        }))
      : []),
    one(
      'lens',
      'plain',
      (d) => of(d).lens ?? 35,
      (d, v) => void (of(d).lens = v),
    ),
  ]
}

/** The values that its form says may move, along its path. */
function kindSlots(d: Document, i: number, id: string): Slot[] {
  const kind = kindOf(d.rigs[i]!)
  const of = (d: Document) => d.rigs[i]![kind] as unknown as Record<string, Value | undefined>
  return rigForms[kind].fields
    .filter((f) => f.kind === 'moving')
    .map((f) => ({
      ...slot(
        'rigs',
        id,
        f.key,
        'distance',
        (d) => of(d)[f.key],
        (d, v) => void (of(d)[f.key] = v),
      ),
      name: f.label.toLowerCase(),
    }))
}

const layerValues = ['heading', 'pitch', 'bank', 'aside', 'rise', 'ahead'] as const

/** The values of the layers of a figure's cycle. */
function layerSlots(d: Document, i: number, id: string): Slot[] {
  return (d.rigs[i]!.cycle?.layers ?? []).flatMap((l, k) =>
    layerValues.map((v, n) => ({
      ...slot(
        'rigs',
        id,
        `layer${k + 1}-${v}`,
        n < 3 ? 'angle' : 'length',
        (d) => (d.rigs[i]!.cycle?.layers?.[k] as Record<string, Value | undefined> | undefined)?.[v],
        (d, to) => void ((d.rigs[i]!.cycle!.layers![k] as unknown as Record<string, Value>)[v] = to),
      ),
      name: `${l.name} ${v}`,
    })),
  )
}

/** The values of a body or a cloth: its reach, its twist, its blends. */
function bodySlots(d: Document, i: number, id: string): Slot[] {
  const rig = d.rigs[i]!
  const body = rig.body ?? rig.drape
  const of = (d: Document) => (d.rigs[i]!.body ?? d.rigs[i]!.drape) as Body | undefined
  return [
    ...(['tail', 'head', 'twist'] as const)
      .filter((k) => (k === 'twist' ? rig.body : body?.fit === 'reach'))
      .map((k) =>
        slot(
          'rigs',
          id,
          k,
          k === 'twist' ? 'angle' : 'distance',
          (d) => of(d)?.[k],
          (d, v) => void (of(d)![k] = v),
        ),
      ),
    ...blendsOf(rig).map((b, k) => ({
      ...slot(
        'rigs',
        id,
        `blend${k + 1}`,
        'plain',
        (d) => blendsOf(d.rigs[i]!)[k]?.amount,
        (d, v) => void (blendsOf(d.rigs[i]!)[k]!.amount = v),
      ),
      name: b.name,
    })),
  ]
}

/** The values of the waves of a path. */
function waveSlots(d: Document, id: string | undefined): Slot[] {
  const i = d.paths.findIndex((p) => p.id === id)
  const steps = d.paths[i]?.steps ?? []
  let n = 0
  return steps.flatMap((s, k) => {
    if (!s.wave) return []
    n++
    return (['side', 'up', 'phase'] as const).map((f) => ({
      ...slot(
        'paths',
        id!,
        `wave${n}-${f}`,
        f === 'phase' ? 'waves' : 'length',
        (d) => d.paths[i]!.steps?.[k]?.wave?.[f],
        (d, v) => void (d.paths[i]!.steps![k]!.wave![f] = v),
      ),
      name: `wave ${n > 1 ? `${n} ` : ''}${f}`,
      step: k,
    }))
  })
}

function slot(
  list: string,
  id: string,
  key: string,
  quantity: Quantity,
  get: (d: Document) => Value | undefined,
  put: (d: Document, v: Value) => void,
): Slot {
  return { key, ref: `${list}/${id}/${key}`, quantity, get: (d) => get(d) ?? 0, put }
}

/** Every value of the scene that may move, with a name for people. */
export function allSlots(d: Document): (Slot & { name: string })[] {
  const of = (kind: string, list: { id: string; name: string }[] | undefined) =>
    (list ?? []).flatMap((x) =>
      slotsOf(d, kind, x.id).map((s) => ({
        ...s,
        name: `${x.name} ${kind === 'tug' ? 'pull ' : ''}${s.name ?? s.key}`,
      })),
    )
  return [
    ...of('rig', d.rigs),
    ...of('path', d.paths),
    ...of('carrier', d.carriers),
    ...of('tug', d.tugs),
    ...of('camera', d.cameras),
  ]
}

/** What a value comes to at the play head: from the frame where it moves, else as it is. */
export function presentOf(
  s: Slot,
  d: Document,
  moving: readonly { ref: string }[] | undefined,
  values: ArrayLike<number>,
): number {
  const v = s.get(d)
  if (typeof v === 'number') return v
  const i = moving?.findIndex((m) => m.ref === s.ref) ?? -1
  return i < 0 ? (isKeyed(v) ? v.keys[0]!.value : 0) : (values[i] ?? 0)
}

/** Which keys are chosen: frames of each value. */
export type Chosen = Record<string, readonly number[]>

export const chosenCount = (c: Chosen) => Object.values(c).reduce((n, f) => n + f.length, 0)
export const isChosen = (c: Chosen, m: string, frame: number) => c[m]?.includes(frame) ?? false

export function toggled(c: Chosen, m: string, frame: number): Chosen {
  const now = c[m] ?? []
  return { ...c, [m]: now.includes(frame) ? now.filter((f) => f !== frame) : [...now, frame] }
}

/**
 * Moves the chosen keys of a value to where `to` says. Null where two keys would meet on one frame: then nothing
 * changes.
 */
export function moved(v: Value, frames: readonly number[], to: (k: Key) => Partial<Key>): Value | null {
  if (!isKeyed(v)) return v
  const keys = v.keys.map((k) => (frames.includes(k.frame) ? { ...k, ...to(k) } : k))
  if (new Set(keys.map((k) => k.frame)).size < keys.length) return null
  return { ...v, keys: keys.sort((a, b) => a.frame - b.frame) }
}

/** Times handles by a share of frames and of value, as when keys are stretched. */
export function scaledHandles(k: Key, frames: number, values: number): Partial<Key> {
  const times = (h: [number, number]): [number, number] => [h[0] * frames, h[1] * values]
  return { ...(k.in ? { in: times(k.in) } : {}), ...(k.out ? { out: times(k.out) } : {}) }
}

/** The handles of a free stretch as the server takes them: a third of the way where left out. */
export function handleOf(keys: readonly Key[], i: number, side: 'in' | 'out'): [number, number] {
  const k = keys[i]!
  const other = keys[side === 'out' ? i + 1 : i - 1]
  return k[side] ?? (other ? [(other.frame - k.frame) / 3, (other.value - k.value) / 3] : [0, 0])
}

/** Takes the chosen keys out; a value that loses all stands as it is in `present`. */
export function without(v: Value, frames: readonly number[], present: number): Value {
  if (!isKeyed(v)) return v
  const keys = v.keys.filter((k) => !frames.includes(k.frame))
  return keys.length > 0 ? { ...v, keys } : present
}

/** Sets copied keys down with their first one at a frame; what stood there is replaced. */
export function pasted(v: Value, keys: readonly Key[], at: number): Value {
  const from = Math.min(...keys.map((k) => k.frame))
  const fresh = keys.map((k) => ({ ...k, frame: k.frame - from + at }))
  const old = isKeyed(v) ? v.keys.filter((k) => !fresh.some((f) => f.frame === k.frame)) : []
  const all = [...old, ...fresh].sort((a, b) => a.frame - b.frame)
  return isKeyed(v) ? { ...v, keys: all } : { keys: all, after: 'hold' }
}
