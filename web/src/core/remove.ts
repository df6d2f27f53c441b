import type { Document } from '../api/page.generated'

export type Kind = 'rig' | 'path' | 'part' | 'fixture'

/** Takes a thing out of the scene, with what cannot be without it. */
export function remove(d: Document, kind: Kind, id: string) {
  if (kind === 'rig') {
    d.rigs = d.rigs.filter((r) => r.id !== id)
    for (const p of d.paths.filter((p) => p.shape.track?.rig === id)) remove(d, 'path', p.id)
  } else if (kind === 'fixture') {
    d.fixtures = d.fixtures!.filter((f) => f.id !== id)
    for (const p of d.paths.filter((p) => p.shape.over?.fixture === id)) remove(d, 'path', p.id)
  } else if (kind === 'part') {
    d.parts = d.parts.filter((p) => p.id !== id)
    for (const r of d.rigs.filter((r) => r.part === id)) remove(d, 'rig', r.id)
    for (const f of (d.fixtures ?? []).filter((f) => f.part === id)) remove(d, 'fixture', f.id)
  } else {
    d.paths = d.paths.filter((p) => p.id !== id)
    for (const r of d.rigs.filter((r) => r.path === id)) remove(d, 'rig', r.id)
    for (const r of d.rigs.filter((r) => r.facing.guide === id)) {
      delete r.facing.guide
      if (r.facing.mode === 'guide') r.facing.mode = 'least-twist'
    }
    for (const p of d.paths) {
      for (const s of p.steps ?? []) if (s.join) s.join.paths = s.join.paths.filter((x) => x !== id)
      if (p.steps) p.steps = p.steps.filter((s) => !s.join || s.join.paths.length > 0)
    }
  }
}

/** How many things go with a path, part, rig or fixture. */
export function dependants(d: Document, kind: Kind, id: string): number {
  const without = JSON.parse(JSON.stringify(d)) as Document
  remove(without, kind, id)
  const count = (x: Document) => x.paths.length + x.parts.length + x.rigs.length + (x.fixtures?.length ?? 0)
  return count(d) - count(without) - 1
}
