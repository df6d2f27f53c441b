import type { Document } from './page.generated'
import { followers, kinds, lists, uses, type Kind } from './refs'
import { documentVersion, freeId, freeName } from './value'

/** Things that were copied, with all that they need: a document of those alone. */
export interface Parcel {
  bead: number
  /** What was copied. */
  of: Ref
  things: Partial<Record<Kind, { id: string; name: string }[]>>
}

type Named = { id: string; name: string }
interface Ref {
  kind: Kind
  id: string
}
const list = (d: Document, k: Kind) => (d[lists[k]] ?? []) as Named[]

const kindOf = (word: string) => kinds.find((k) => lists[k] === word)

/** What a value follows. */
function followed(v: { of: string } | { rolls: string }): Ref | undefined {
  if ('rolls' in v) return { kind: 'carrier', id: v.rolls }
  const [word = '', id = ''] = v.of.split('/')
  const kind = kindOf(word)
  return kind && { kind, id }
}

const key = (x: Ref) => `${x.kind} ${x.id}`

const blank = { paths: [], parts: [], rigs: [] }

/** What values of one thing follow. */
function follows(kind: Kind, thing: Named): Ref[] {
  const out: Ref[] = []
  followers({ ...blank, [lists[kind]]: [thing] } as unknown as Document, (v) => {
    const to = followed(v)
    if (to) out.push(to)
  })
  return out
}

/** Things that ride on the master without naming it are made to name it, so that they do elsewhere too. */
function rooted(d: Document): Document {
  const out = structuredClone(d)
  if (!out.master) return out
  // A track lies in the world.
  const riding = out.paths.filter((p) => !p.shape.track)
  for (const x of [...riding, ...(out.fixtures ?? []), ...(out.tugs ?? [])]) x.carrier ??= out.master
  for (const c of out.carriers ?? []) if (c.id !== out.master) c.parent ??= out.master
  delete out.master
  return out
}

/**
 * For every thing, what it needs: what it names, what its values follow, the tugs that pull it, and, of a
 * carrier on the ground, the belts that it stands on.
 */
function needs(d: Document): Map<string, Ref[]> {
  const out = new Map<string, Ref[]>()
  for (const k of kinds) for (const t of list(d, k)) out.set(key({ kind: k, id: t.id }), follows(k, t))
  // Another rig to compare with is not needed.
  for (const u of uses(d)) if (u.by && u.field !== 'inStep') out.get(key(u.by))?.push(u)
  for (const t of d.tugs ?? []) out.get(key({ kind: 'path', id: t.path }))?.push({ kind: 'tug', id: t.id })
  for (const p of d.paths) {
    const on = p.shape.wrap?.wheels.some((w) => w.ground && !w.free) && d.carriers?.find((c) => c.id === p.carrier)
    if (on && on.ground) out.get(key({ kind: 'carrier', id: on.id }))!.push({ kind: 'path', id: p.id })
  }
  return out
}

/** Packs a thing with all that it needs. */
export function pack(scene: Document, kind: Kind, id: string): Parcel {
  const d = rooted(scene)
  const need = needs(d)
  const inside = new Set<string>()
  const add = (x: Ref) => {
    const all = need.get(key(x))
    if (!all || inside.has(key(x))) return
    inside.add(key(x))
    all.forEach(add)
  }
  add({ kind, id })
  const things: Parcel['things'] = {}
  for (const k of kinds) {
    const of = list(d, k).filter((t) => inside.has(key({ kind: k, id: t.id })))
    if (of.length > 0) things[k] = of
  }
  return { bead: documentVersion, of: { kind, id }, things }
}

/** Reads a parcel; undefined where the text is none, or one of another version. */
export function readParcel(text: string | null): Parcel | undefined {
  try {
    const p = JSON.parse(text ?? '') as Parcel
    return p.bead === documentVersion && kinds.includes(p.of.kind) && p.things[p.of.kind]?.length ? p : undefined
  } catch {
    return undefined
  }
}

/** A thing in words that do not depend on the order of its fields. */
const words = (x: unknown) =>
  JSON.stringify(x, (_, v: unknown) =>
    typeof v === 'object' && v !== null && !Array.isArray(v) ? Object.fromEntries(Object.entries(v).sort()) : v,
  )

/** The things of a parcel that a document has already, with all that they need, in every word the same. */
function there(d: Document, come: Document, of: Ref): Set<string> {
  const mine = rooted(d)
  const same = new Set<string>()
  for (const k of kinds) {
    const known = new Set(list(mine, k).map(words))
    for (const t of list(come, k)) if (known.has(words(t))) same.add(key({ kind: k, id: t.id }))
  }
  same.delete(key(of))
  const need = needs(come)
  for (let before = -1; before !== same.size;) {
    before = same.size
    for (const x of same) if (need.get(x)?.some((n) => !same.has(key(n)))) same.delete(x)
  }
  return same
}

/**
 * Puts what was packed into a document and returns the id of what was copied. What the document
 * has already is used; all else gets names and ids that are free.
 */
export function unpack(d: Document, parcel: Parcel): string {
  const come = structuredClone({
    ...blank,
    ...Object.fromEntries(kinds.map((k) => [lists[k], parcel.things[k] ?? []])),
  }) as unknown as Document
  const used = there(JSON.parse(JSON.stringify(d)) as Document, come, parcel.of)
  const named = new Map<string, string>()
  for (const k of kinds) {
    const taken = [...list(d, k), ...list(come, k)].map(({ id }) => ({ id }))
    for (const t of list(come, k)) {
      const at = key({ kind: k, id: t.id })
      const clash = !used.has(at) && list(d, k).some((x) => x.id === t.id)
      const id = clash ? freeId(taken, t.name) : t.id
      taken.push({ id })
      named.set(at, id)
    }
  }
  for (const u of uses(come)) {
    const to = named.get(key(u))
    if (to) u.set(to)
    else u.drop()
  }
  followers(come, (v, put) => {
    const to = followed(v)
    const id = to && named.get(key(to))
    if (!id) return
    put('rolls' in v ? { ...v, rolls: id } : { ...v, of: [lists[to.kind], id, ...v.of.split('/').slice(2)].join('/') })
  })
  for (const k of kinds) {
    for (const t of list(come, k)) {
      const at = key({ kind: k, id: t.id })
      if (used.has(at)) continue
      const into = ((d as unknown as Record<string, Named[]>)[lists[k]] ??= [])
      into.push({ ...t, id: named.get(at)!, name: freeName(into, t.name) })
    }
  }
  return named.get(key(parcel.of))!
}

/** Makes another of a thing beside it, on the same path and of the same part; its id. */
export function duplicate(d: Document, kind: Kind, id: string): string {
  const into = (d as unknown as Record<string, Named[]>)[lists[kind]]!
  const from = into.find((x) => x.id === id)!
  const copy = JSON.parse(JSON.stringify(from)) as Named
  copy.name = freeName(into, from.name)
  copy.id = freeId(into, copy.name)
  if (kind === 'path') {
    // A drum stands at the start of one path alone.
    const { hang, wrap } = (copy as unknown as Document['paths'][number]).shape
    delete hang?.drum
    delete wrap?.ends?.drum
  }
  into.push(copy)
  return copy.id
}
