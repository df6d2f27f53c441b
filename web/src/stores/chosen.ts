import { listOf } from '../core/remove'
import { useBench, type Bench, type Selection } from './bench'

// What is chosen, as found in the document.

type Seen = Pick<Bench, 'doc' | 'selected'>

/** The rig that is chosen, with its place in the document. */
export function chosenRig(b: Seen) {
  if (!b.doc || b.selected?.kind !== 'rig') return null
  const index = b.doc.rigs.findIndex((r) => r.id === b.selected!.id)
  return index < 0 ? null : { index, rig: b.doc.rigs[index]! }
}

/** Whether the checks of a rig wait for a simulation that is under way. */
export const waitsFor = (b: Pick<Bench, 'checked' | 'simulating'>, rig: string | undefined) =>
  !!rig && !!b.simulating && b.checked.waiting.includes(rig)

/** The carrier that is chosen, with its place in the document. */
export function chosenCarrier(b: Seen) {
  const index = b.selected?.kind === 'carrier' ? (b.doc?.carriers?.findIndex((c) => c.id === b.selected!.id) ?? -1) : -1
  return index < 0 ? null : { index, carrier: b.doc!.carriers![index]! }
}

/** The path that is worked on: the chosen one, or the chosen rig's. */
export function chosenPath(b: Seen) {
  if (!b.doc || !b.selected) return null
  const tug = b.selected.kind === 'tug' ? b.doc.tugs?.find((t) => t.id === b.selected!.id) : undefined
  const id =
    b.selected.kind === 'path'
      ? b.selected.id
      : (tug?.path ?? chosenRig(b)?.rig.path ?? chosenCarrier(b)?.carrier.ride?.path)
  const index = b.doc.paths.findIndex((p) => p.id === id)
  return index < 0 ? null : { index, path: b.doc.paths[index]! }
}

/** The path that the length strip shows: the one being worked on, or the last one that was, or the first. */
export function stripPath(b: Seen) {
  const now = chosenPath(b)
  if (now || !b.doc) return now
  const index = Math.max(
    b.doc.paths.findIndex((p) => p.id === lastPath),
    0,
  )
  const path = b.doc.paths[index]
  return path ? { index, path } : null
}

/** The path that was worked on last. */
let lastPath = ''
useBench.subscribe((b, before) => {
  if (b.selected !== before.selected) lastPath = chosenPath(b)?.path.id ?? lastPath
})

/** All that is chosen and still there. */
export function chosenThings(): Selection[] {
  const { doc, selected, also } = useBench.getState()
  if (!doc || !selected) return []
  const there = new Set(listOf(doc, selected.kind).map((x) => x.id))
  return [selected.id, ...also].filter((id) => there.has(id)).map((id) => ({ kind: selected.kind, id }))
}
