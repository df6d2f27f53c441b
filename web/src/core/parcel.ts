import type { Document } from './page.generated'
import { followers, kinds, lists, uses, type Kind } from './refs'
import { documentVersion, freeId, freeName } from './value'

/** Things that were copied, with all that they need: a document of those alone. */
export interface Parcel {
  bead: number
  /** What was copied. */
  of: { kind: Kind; id: string }
  things: Partial<Record<Kind, { id: string; name: string }[]>>
}

type Named = { id: string; name: string }
const list = (d: Document, k: Kind) => (d[lists[k]] ?? []) as Named[]

const kindOf = (word: string) => kinds.find((k) => lists[k] === word)

/** What a value follows. */
function followed(v: { of: string } | { rolls: string }): { kind: Kind; id: string } | undefined {
  if ('rolls' in v) return { kind: 'carrier', id: v.rolls }
  const [word = '', id = ''] = v.of.split('/')
  const kind = kindOf(word)
  return kind && { kind, id }
}

const key = (x: { kind: Kind; id: string }) => `${x.kind} ${x.id}`

/** Packs a thing with what it names, what its values follow, and the handles that pull its paths. */
export function pack(d: Document, kind: Kind, id: string): Parcel {
  const inside = new Set<string>()
  const all = uses(d)
  const add = (x: { kind: Kind; id: string }) => {
    const thing = list(d, x.kind).find((t) => t.id === x.id)
    if (!thing || inside.has(key(x))) return
    inside.add(key(x))
    for (const u of all) if (u.by && key(u.by) === key(x)) add(u)
    followers({ ...blank, [lists[x.kind]]: [thing] } as unknown as Document, (v) => {
      const to = followed(v)
      if (to) add(to)
    })
    if (x.kind === 'path') for (const t of d.tugs ?? []) if (t.path === x.id) add({ kind: 'tug', id: t.id })
  }
  add({ kind, id })
  const things: Parcel['things'] = {}
  for (const k of kinds) {
    const of = list(d, k).filter((t) => inside.has(key({ kind: k, id: t.id })))
    if (of.length > 0) things[k] = structuredClone(of)
  }
  return { bead: documentVersion, of: { kind, id }, things }
}

const blank = { paths: [], parts: [], rigs: [] }

/** Reads a parcel; undefined where the text is none, or one of another version. */
export function readParcel(text: string | null): Parcel | undefined {
  try {
    const p = JSON.parse(text ?? '') as Parcel
    return p.bead === documentVersion && kinds.includes(p.of.kind) && p.things[p.of.kind]?.length ? p : undefined
  } catch {
    return undefined
  }
}

/**
 * Puts what was packed into a document and returns the id of what was copied. What it needs and
 * the document has already, in every word the same, is used; all else gets names and ids that are free.
 */
export function unpack(d: Document, parcel: Parcel): string {
  const come = structuredClone({
    ...blank,
    ...Object.fromEntries(kinds.map((k) => [lists[k], parcel.things[k] ?? []])),
  })
  const work = come as unknown as Document
  const named = new Map<string, string>()
  const there = new Set<string>()
  for (const k of kinds) {
    for (const t of list(work, k)) {
      const at = { kind: k, id: t.id }
      const same = list(d, k).some((x) => JSON.stringify(x) === JSON.stringify(t))
      if (same && key(at) !== key(parcel.of)) {
        named.set(key(at), t.id)
        there.add(key(at))
        continue
      }
      // Ids of what comes along are taken, too.
      const taken = [...list(d, k), ...[...named].filter(([n]) => n.startsWith(k + ' ')).map(([, id]) => ({ id }))]
      named.set(key(at), list(d, k).some((x) => x.id === t.id) ? freeId(taken, t.name) : t.id)
    }
  }
  for (const u of uses(work)) {
    const to = named.get(key(u))
    if (to) u.set(to)
  }
  followers(work, (v, put) => {
    const to = followed(v)
    const id = to && named.get(key(to))
    if (!id) return
    put('rolls' in v ? { ...v, rolls: id } : { ...v, of: [lists[to.kind], id, ...v.of.split('/').slice(2)].join('/') })
  })
  for (const k of kinds) {
    for (const t of list(work, k)) {
      if (there.has(key({ kind: k, id: t.id }))) continue
      const into = ((d as unknown as Record<string, Named[]>)[lists[k]] ??= [])
      into.push({ ...t, id: named.get(key({ kind: k, id: t.id }))!, name: freeName(into, t.name) })
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
  into.push(copy)
  return copy.id
}
