import { references, type Gone } from './forms'
import type { Document } from './page.generated'

export type Kind = 'rig' | 'path' | 'part' | 'material' | 'fixture' | 'carrier' | 'tug' | 'camera'

/** Where the things of each kind stand in a document. */
export const lists = {
  path: 'paths',
  part: 'parts',
  material: 'materials',
  fixture: 'fixtures',
  rig: 'rigs',
  carrier: 'carriers',
  tug: 'tugs',
  camera: 'cameras',
} as const satisfies Record<Kind, keyof Document>

export const kinds = Object.keys(lists) as Kind[]

/** A place where a thing is named by another, or by the scene itself. */
export interface Use {
  kind: Kind
  id: string
  /** What becomes of it when the thing goes, as the table of references says. */
  gone: Gone
  /** Who names it, null where the scene does. */
  by: { kind: Kind; id: string } | null
  /** The field that names it. */
  field: string
  /** Names another thing. */
  set: (id: string) => void
  /** Takes the name out, with what cannot be without it. */
  drop: () => void
}

type Node = Record<string, unknown>
interface At {
  holder: Node | unknown[]
  key: string | number
}

const take = ({ holder, key }: At) => {
  if (Array.isArray(holder)) holder.splice(key as number, 1)
  else delete holder[key]
}

const read = ({ holder, key }: At) => (holder as Node)[key]

/** Lists every place of a document where a thing is named. */
export function uses(d: Document): Use[] {
  const out: Use[] = []
  for (const r of references) walk(d, r.at.split('/'), [{ holder: { d }, key: 'd' }], r.kind, r.gone ?? '', out)
  return out
}

function walk(node: unknown, rest: string[], way: At[], kind: Kind, gone: Gone, out: Use[]) {
  if (node === undefined || node === null) return
  if (rest.length === 0) {
    if (Array.isArray(node)) node.forEach((_, key) => add([...way, { holder: node, key }]))
    else if (node !== '') add(way)
    return
  }
  const [key, ...on] = rest as [string, ...string[]]
  if (key !== '*') walk((node as Node)[key], on, [...way, { holder: node as Node, key }], kind, gone, out)
  else
    (node as unknown[]).forEach((x, i) => walk(x, on, [...way, { holder: node as unknown[], key: i }], kind, gone, out))

  function add(way: At[]) {
    const at = way.at(-1)!
    const top = way[2] && (read(way[2]) as { id: string } | undefined)
    const owner = kinds.find((k) => lists[k] === way[1]!.key)
    out.push({
      kind,
      id: read(at) as string,
      gone,
      by: owner && top ? { kind: owner, id: top.id } : null,
      field: String(Array.isArray(at.holder) ? way.at(-2)!.key : at.key),
      set: (id) => void ((at.holder as Node)[at.key] = id),
      drop: () => {
        if (gone === 'whole') {
          take(way.at(-2)!)
          tidy(way.slice(0, -2))
        } else {
          take(at)
          if (gone === 'entry') tidy(way.slice(0, -1), true)
        }
      },
    })
  }
}

/** Leaves out a list that has become empty. With whole, what holds the list goes too. */
function tidy(way: At[], whole = false) {
  const list = way.at(-1)
  if (!list || !Array.isArray(read(list)) || (read(list) as unknown[]).length > 0) return
  if (!whole) {
    take(list)
    return
  }
  const entry = way.findLast((at) => Array.isArray(at.holder))
  if (entry) take(entry)
}

/** Where a value comes from that follows another: "rigs/ID/travel", or a carrier that it rolls with. */
type Follower = { of: string } | { rolls: string }

/** Runs over the values of a document that follow others; put sets one anew. */
export function followers(d: Document, run: (v: Follower, put: (v: unknown) => void) => void) {
  const go = (node: unknown) => {
    if (typeof node !== 'object' || node === null) return
    for (const [key, v] of Object.entries(node as Record<string, Partial<{ of: unknown; rolls: unknown }> | null>)) {
      if (typeof v !== 'object' || v === null) continue
      if (typeof v.of === 'string' || typeof v.rolls === 'string') {
        run(v as Follower, (to) => void ((node as Node)[key] = to))
      } else go(v)
    }
  }
  for (const k of kinds) go(d[lists[k]])
}
