import { isKeyed, type Key, type Value } from './value'

// What can be done to keys of several values at once, without React.

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
