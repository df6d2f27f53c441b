import type { Document } from './page.generated'
import { followers, kinds, lists, uses, type Kind } from './refs'

export type { Kind }

/** The things of one kind. */
export const listOf = (d: Document, kind: Kind): { id: string; name: string }[] => d[lists[kind]] ?? []

/** Takes a thing out of the scene, with what cannot be without it. */
export function remove(d: Document, kind: Kind, id: string) {
  const list = listOf(d, kind)
  const at = list.findIndex((x) => x.id === id)
  if (at < 0) return
  list.splice(at, 1)
  for (;;) {
    const use = uses(d).find((u) => u.kind === kind && u.id === id)
    if (!use) break
    if (use.gone === 'thing' && use.by) remove(d, use.by.kind, use.by.id)
    else use.drop()
  }
  // Values that followed what has gone stand still at 0.
  followers(d, (v, put) => {
    if ('of' in v ? v.of.startsWith(`${lists[kind]}/${id}/`) : kind === 'carrier' && v.rolls === id) put(0)
  })
  for (const r of d.rigs) if (r.facing.mode === 'guide' && !r.facing.guide) r.facing.mode = 'least-twist'
  for (const c of d.carriers ?? []) {
    // It rides on the ground on the wheels of its belts only.
    const roads = d.paths.some(
      (p) => (p.carrier ?? d.master) === c.id && p.shape.wrap?.wheels.some((w) => w.ground && !w.free),
    )
    if (!roads) delete c.ground
  }
}

/** The things that go with a thing. */
export function dependants(d: Document, kind: Kind, id: string): { kind: Kind; name: string }[] {
  const without = structuredClone(d)
  remove(without, kind, id)
  return kinds.flatMap((k) =>
    (d[lists[k]] ?? [])
      .filter((x) => !(k === kind && x.id === id) && !without[lists[k]]?.some((y) => y.id === x.id))
      .map((x) => ({ kind: k, name: x.name })),
  )
}
