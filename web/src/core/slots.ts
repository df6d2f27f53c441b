import { movings, type Moving } from './forms'
import type { Document } from './page.generated'
import type { Quantity } from './units'
import { isKeyed, type Value } from './value'

// The values of a document that may move, found by the core's table of fields.

/** A value that may move. */
export interface Slot {
  /** What it is called among its owner's values. */
  key: string
  /** The name by which drives and the readout know it. */
  ref: string
  quantity: Quantity
  /** For people, among its owner's values. */
  name: string
  /** Where it is, from its owner on. */
  at: readonly (string | number)[]
  get: (d: Document) => Value
  put: (d: Document, v: Value) => void
}

type Node = Record<string | number, unknown> | undefined

/** The lists of what has such values, by what one of theirs is called. */
const lists = { rig: 'rigs', path: 'paths', carrier: 'carriers', tug: 'tugs', camera: 'cameras' } as const

const isOwner = (kind: string | undefined): kind is keyof typeof lists => !!kind && kind in lists

/** The values of a thing that may move. */
export function slotsOf(d: Document, kind: string | undefined, id: string | undefined): Slot[] {
  if (!isOwner(kind)) return []
  const list = lists[kind]
  const i = d[list]?.findIndex((x) => x.id === id) ?? -1
  if (i < 0) return []
  const owner = d[list]![i] as unknown as Node
  return movings
    .filter((m) => m.at.startsWith(`${list}/`))
    .flatMap((m) =>
      found(owner, m.at.split('/').slice(2), m).map(({ at, number, entry, axis }) => {
        const key = m.key.replace('#', String(number)).replace('*', axis)
        return {
          key,
          ref: `${list}/${id}/${key}`,
          quantity: m.quantity,
          name: (m.word ?? m.key)
            .replace('# ', number > 1 ? `${number} ` : '')
            .replace('*', axis)
            .replace('@', entry),
          at,
          get: (d: Document) => read(d[list]![i] as unknown as Node, at) ?? m.else ?? 0,
          put: (d: Document, v: Value) => write(d[list]![i] as unknown as Node, at, v),
        }
      }),
    )
}

interface Found {
  at: (string | number)[]
  /** Of the entry of the innermost list that it is in, from 1; and its name. */
  number: number
  entry: string
  axis: string
}

/** The places of a field in what holds it, by the steps that lead there (`Moving` in core/scene/slots.go). */
function found(holder: Node, [step, ...steps]: string[], m: Moving): Found[] {
  if (step === 'xyz') return ['x', 'y', 'z'].map((axis, k) => ({ at: [k], number: 0, entry: '', axis }))
  if (step === '*') {
    let number = 0
    return ((holder ?? []) as Node[]).flatMap((x, k) => {
      const inside = found(x, steps, m)
      if (inside.length > 0) number++
      return inside.map((f) => ({
        ...f,
        at: [k, ...f.at],
        number: f.number || number,
        entry: f.entry || ((x?.name as string | undefined) ?? ''),
      }))
    })
  }
  const key = step!.replace('?', '')
  if (key !== step && !holder?.[key]) return []
  if (steps.length > 0) {
    return found(holder?.[key] as Node, steps, m).map((f) => ({ ...f, at: [key, ...f.at] }))
  }
  const [beside, word] = m.when?.split(':') ?? []
  if (beside && holder?.[beside] !== word) return []
  return [{ at: [key], number: 0, entry: '', axis: '' }]
}

function read(holder: Node, at: readonly (string | number)[]): Value | undefined {
  return at.reduce<unknown>((n, key) => (n as Node)?.[key], holder) as Value | undefined
}

/** Puts a value into what holds it; what was left out on the way there is made. */
function write(holder: Node, at: readonly (string | number)[], v: Value) {
  let n = holder!
  at.slice(0, -1).forEach((key, i) => {
    n = (n[key] ??= typeof at[i + 1] === 'number' ? [0, 0, 0] : {}) as NonNullable<Node>
  })
  n[at.at(-1)!] = v
}

/** Every value of the scene that may move, with a name for people. */
export function allSlots(d: Document): Slot[] {
  return (Object.keys(lists) as (keyof typeof lists)[]).flatMap((kind) =>
    (d[lists[kind]] ?? []).flatMap((x) => slotsOf(d, kind, x.id).map((s) => ({ ...s, name: `${x.name} ${s.name}` }))),
  )
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
