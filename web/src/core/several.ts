import { partForms, shapeForms, type Field } from './forms'
import { slotsOf } from './slots'
import type { Document, PartShape, Rig } from './page.generated'
import type { Kind } from './refs'
import { listOf } from './remove'
import { ownOf } from './rigs'
import type { Quantity } from './units'
import { shapeKind } from './value'

/** A number that several things have, each its own. */
export interface Common {
  key: string
  label: string
  quantity: Quantity
  /** Undefined where the thing has none, or one that moves. */
  get: (d: Document, id: string) => number | undefined
  put: (d: Document, id: string, v: number) => void
}

type Node = Record<string, unknown>
type Holder = (d: Document, id: string) => Node | undefined

const at = (d: Document, kind: Kind, id: string) => listOf(d, kind).find((x) => x.id === id) as unknown as Node

/** A field of what a holder finds; steps go into lists, such as at/0. */
function field(label: string, quantity: Quantity, holder: Holder, path: string, fallback?: number): Common {
  const steps = path.split('/')
  const last = steps.pop()!
  const inner = (d: Document, id: string) =>
    steps.reduce<Node | undefined>((n, s) => n?.[s] as Node | undefined, holder(d, id))
  return {
    key: path,
    label,
    quantity,
    get: (d, id) => {
      if (!holder(d, id)) return undefined
      const v = inner(d, id)?.[last] ?? fallback
      return typeof v === 'number' ? v : undefined
    },
    put: (d, id, v) => {
      let n = holder(d, id)
      for (const s of steps) n = (n![s] ??= s === 'at' || s === 'pivot' ? [0, 0, 0] : {}) as Node
      n![last] = v
    },
  }
}

const quantities: Partial<Record<Field['kind'], Quantity>> = {
  length: 'length',
  distance: 'distance',
  angle: 'angle',
  count: 'count',
  plain: 'plain',
}

const stands = (holder: Holder) => [
  ...(['x', 'y', 'z'] as const).map((a, k) => field(`Place ${a}`, 'distance', holder, `at/${k}`, 0)),
  ...(['heading', 'pitch', 'bank'] as const).map((k) => field(k[0]!.toUpperCase() + k.slice(1), 'angle', holder, k, 0)),
]

/** Sizes of a part's or path's shape, where all are of one kind. */
function sizes(d: Document, kind: 'part' | 'path', ids: readonly string[]): Common[] {
  const shape: Holder = (d, id) => at(d, kind, id)?.shape as Node | undefined
  const of = (id: string) =>
    kind === 'path'
      ? shapeKind(d.paths.find((p) => p.id === id)!.shape)
      : (Object.keys(shape(d, id) ?? {}).find((k) => shape(d, id)![k]) as keyof PartShape)
  const first = of(ids[0]!)
  if (ids.some((id) => of(id) !== first)) return []
  const form = kind === 'path' ? shapeForms[first as keyof typeof shapeForms] : partForms[first as keyof PartShape]
  return form.fields.flatMap((f) => {
    const quantity = quantities[f.kind]
    return quantity ? [field(f.label, quantity, (d, id) => shape(d, id)?.[first] as Node | undefined, f.key)] : []
  })
}

/** The numbers that things of one kind have in common; those that move in any of them are left out. */
export function commonFields(d: Document, kind: Kind, ids: readonly string[]): Common[] {
  const slots = slotsOf(d, kind, ids[0]).map((s): Common => {
    const of = (d: Document, id: string) => slotsOf(d, kind, id).find((o) => o.key === s.key)
    return {
      key: s.key,
      label: s.name[0]!.toUpperCase() + s.name.slice(1),
      quantity: s.quantity,
      get: (d, id) => {
        const v = of(d, id)?.get(d)
        return typeof v === 'number' ? v : undefined
      },
      put: (d, id, v) => of(d, id)?.put(d, v),
    }
  })
  const thing: Holder = (d, id) => at(d, kind, id)
  const spacing: Holder = (d, id) => ownOf(at(d, kind, id) as unknown as Rig).spacing as Node | undefined
  const more: Partial<Record<Kind, () => Common[]>> = {
    rig: () => [
      field('Count', 'count', spacing, 'count'),
      field('Pitch', 'length', spacing, 'pitch'),
      field('Scale', 'plain', thing, 'scale', 1),
    ],
    fixture: () => stands(thing),
    path: () => [
      ...sizes(d, 'path', ids),
      ...stands((d, id) => {
        const p = d.paths.find((p) => p.id === id)
        return p && !p.shape.track && !p.shape.over ? ((p.rest ?? {}) as Node) : undefined
      }).map((c): Common => ({
        ...c,
        put: (d, id, v) => {
          const p = d.paths.find((p) => p.id === id)!
          p.rest ??= {}
          c.put(d, id, v)
        },
      })),
    ],
    part: () => sizes(d, 'part', ids),
  }
  return [...slots, ...(more[kind]?.() ?? [])].filter((c) => ids.every((id) => c.get(d, id) !== undefined))
}
