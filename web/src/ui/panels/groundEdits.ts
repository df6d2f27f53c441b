import type { Document } from '../../core/page.generated'
import { useBench } from '../../stores/bench'

export type Ground = NonNullable<Document['ground']>

/** What the ground's fields change it with: a level ground leaves the document. */
export function useGround() {
  const doc = useBench((b) => b.doc)!
  const edit = useBench((b) => b.edit)
  const preview = useBench((b) => b.preview)
  const of = (d: Document) => (d.ground ??= {})
  const change = (label: string, to: (g: Ground) => void) =>
    edit(label, (d) => {
      to(of(d))
      const g = d.ground!
      if (!g.points?.length) delete g.points
      if (!g.humps?.length) delete g.humps
      if (!g.points && !g.humps && !g.rough && !g.material) delete d.ground
    })
  const sets = (label: string, to: (g: Ground, v: number) => void) => ({
    onPreview: (v: number) => preview((d) => to(of(d), v)),
    onCommit: (v: number) => change(label, (g) => to(g, v)),
  })
  return { ground: doc.ground ?? {}, change, sets }
}

/** Most points that a profile takes from a drawn line. */
const mostPoints = 400

/** The profile of a path's drawing seen from the side: places along z and heights. */
export function profileOf(line: Float32Array): Ground['points'] {
  const all: { z: number; height: number }[] = []
  for (let i = 0; i < line.length; i += 3) all.push({ z: line[i + 2]!, height: line[i + 1]! })
  if (all.length > 1 && all[0]!.z > all.at(-1)!.z) all.reverse()
  const every = Math.ceil(all.length / mostPoints)
  const round = (v: number) => Number(v.toFixed(6))
  const out: { z: number; height: number }[] = []
  all.forEach((p, i) => {
    const last = out.at(-1)
    if ((i % every === 0 || i === all.length - 1) && (!last || p.z > last.z + 1e-4)) {
      out.push({ z: round(p.z), height: round(p.height) })
    }
  })
  return out
}
