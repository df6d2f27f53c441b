import { otherSide } from '../api/client'
import { handlesOf } from '../core/forms'
import type { Document } from '../core/page.generated'
import { pack, readParcel, unpack, duplicate as duplicated, type Parcel } from '../core/parcel'
import { dependants, listOf, remove, type Kind } from '../core/remove'
import { takeOver } from '../stores/takeOver'
import { useBench, type Selection } from '../stores/bench'
import { chosenThings } from '../stores/chosen'

// What can be done with any thing of the scene, from its menu and by key.

const nameOf = ({ kind, id }: Selection) => {
  const { doc } = useBench.getState()
  return (doc && listOf(doc, kind).find((x) => x.id === id)?.name) ?? ''
}

/** What goes with it, in words: ", with Port tread and Starboard tread". */
export function company({ kind, id }: Selection): string {
  const { doc } = useBench.getState()
  const names = doc ? dependants(doc, kind, id).map((x) => x.name) : []
  if (names.length === 0) return ''
  if (names.length > 3) return `, with ${names.length} that need it`
  return `, with ${names.length > 1 ? `${names.slice(0, -1).join(', ')} and ` : ''}${names.at(-1)}`
}

export function removeThing(s: Selection) {
  const { edit, select, say } = useBench.getState()
  const [name, also] = [nameOf(s), company(s)]
  edit(`delete ${name}`, (d) => remove(d, s.kind, s.id))
  const first = useBench.getState().doc?.rigs[0]
  select(first ? { kind: 'rig', id: first.id } : null)
  if (also) say(`${name} was deleted${also}. Ctrl Z brings all of it back.`)
}

/** Removes several things as one step. */
export function removeThings(all: Selection[]) {
  const [only] = all
  if (all.length === 1) removeThing(only!)
  if (all.length < 2) return
  const { edit, select } = useBench.getState()
  edit(`delete ${all.length} ${kindWord[only!.kind]}s`, (d) => all.forEach((s) => remove(d, s.kind, s.id)))
  const first = useBench.getState().doc?.rigs[0]
  select(first ? { kind: 'rig', id: first.id } : null)
}

/** Duplicates all that is chosen, and chooses what came of it. */
export function duplicateThings() {
  const all = chosenThings()
  if (all.length === 1) duplicateThing(all[0]!)
  if (all.length < 2) return
  const made: Selection[] = []
  const { edit, select, choose } = useBench.getState()
  edit(`duplicate ${all.length} ${kindWord[all[0]!.kind]}s`, (d) =>
    all.forEach(({ kind, id }) => made.push({ kind, id: duplicated(d, kind, id) })),
  )
  select(made[0]!)
  made.slice(1).forEach(choose)
}

export function duplicateThing({ kind, id }: Selection) {
  let made = ''
  useBench.getState().edit(`duplicate ${nameOf({ kind, id })}`, (d) => void (made = duplicated(d, kind, id)))
  useBench.getState().select({ kind, id: made })
}

/** Under this the copied thing lies in this browser, for other scenes and windows. */
const shelf = 'bead-copied'

export function copyThing(s: Selection) {
  const { doc, say } = useBench.getState()
  if (!doc) return
  try {
    localStorage.setItem(shelf, JSON.stringify(pack(doc, s.kind, s.id)))
    const ground = doc.ground ? ' The ground stays here.' : ''
    say(`${nameOf(s)} is copied, with all that it needs. Ctrl V puts it into this scene or another.${ground}`)
  } catch {
    say(`${nameOf(s)} is too large to be copied in this browser. Save the scene as a file instead.`)
  }
}

const copied = (): Parcel | undefined => readParcel(localStorage.getItem(shelf))

export function pasteThing() {
  const { edit, select, say } = useBench.getState()
  const parcel = copied()
  if (!parcel) {
    say('Nothing is copied yet: choose something and press Ctrl C.')
    return
  }
  const name = parcel.things[parcel.of.kind]!.find((x) => x.id === parcel.of.id)?.name ?? ''
  let id = ''
  edit(`paste ${name}`, (d) => void (id = unpack(d, parcel)))
  select({ kind: parcel.of.kind, id })
}

/** Puts the caret into the name of what is chosen. */
export function renameThing(s: Selection) {
  useBench.getState().select(s)
  // The recipe shows it first.
  requestAnimationFrame(() =>
    document.querySelector<HTMLInputElement>(`input[aria-label="Name of the ${kindWord[s.kind]}"]`)?.select(),
  )
}

/** What kinds are called in the page. */
export const kindWord: Record<Kind, string> = {
  rig: 'rig',
  path: 'path',
  part: 'part',
  material: 'material',
  fixture: 'fixture',
  carrier: 'carrier',
  tug: 'handle',
  camera: 'camera',
}

/** Makes the mirror image of a path with what rides on it, so many metres apart; 0: as it lies. */
export function makeOtherSide(path: string, apart: number) {
  const name = useBench.getState().doc?.paths.find((p) => p.id === path)?.name
  return takeOver(`make the other side of ${name}`, (d) => otherSide(d, path, apart))
}

type Wrap = NonNullable<Document['paths'][number]['shape']['wrap']>

/** Changes the list of wheels; distances go on beginning at the same one, if it is still there. */
export function keepAnchor(wrap: Wrap, change: (list: Wrap['wheels']) => void) {
  const anchor = wrap.anchor ? wrap.wheels[wrap.anchor - 1] : undefined
  change(wrap.wheels)
  if (anchor) wrap.anchor = wrap.wheels.indexOf(anchor) + 1 || undefined
}

/** Removes the chosen point or wheel of the chosen path; false where it has none. */
export function removePoint(): boolean {
  const { doc, selected, point, edit, say } = useBench.getState()
  const index = doc?.paths.findIndex((p) => selected?.kind === 'path' && p.id === selected.id) ?? -1
  const shape = doc?.paths[index]?.shape
  if (!shape || point === null) return false
  const points = (s: typeof shape) => (s.spline ?? s.polyline ?? s.bspline ?? s.over)?.points
  const least = shape.wrap ? 1 : 2
  const list = shape.wrap?.wheels ?? points(shape)
  if (!list && handlesOf(shape)) {
    say('A line keeps its two ends.')
    return true
  }
  if (shape.wrap?.ends && point === shape.wrap.wheels.length) {
    say('A belt with ends keeps its start.')
    return true
  }
  if (!list?.[point]) return false
  if (list.length <= least) {
    say(shape.wrap ? 'A belt keeps at least one wheel.' : 'A path keeps at least two points.')
    return true
  }
  useBench.setState({ point: null })
  edit(shape.wrap ? `remove ${shape.wrap.wheels[point]!.name}` : `delete point ${point + 1}`, (d) => {
    const s = d.paths[index]!.shape
    if (s.wrap) keepAnchor(s.wrap, (wheels) => void wheels.splice(point, 1))
    else {
      points(s)!.splice(point, 1)
      s.polyline?.fillets?.splice(point, 1)
    }
  })
  return true
}
