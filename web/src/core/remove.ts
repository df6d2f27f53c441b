import { blendsOf, leadOf, setLead } from './rigs'
import type { Document, Value } from './value'

export type Kind = 'rig' | 'path' | 'part' | 'fixture' | 'carrier' | 'tug'

/** The things of one kind. */
export function listOf(d: Document, kind: Kind): { id: string; name: string }[] {
  switch (kind) {
    case 'rig':
      return d.rigs
    case 'path':
      return d.paths
    case 'part':
      return d.parts
    case 'fixture':
      return (d.fixtures ??= [])
    case 'carrier':
      return (d.carriers ??= [])
    case 'tug':
      return (d.tugs ??= [])
  }
}

/** Takes a thing out of the scene, with what cannot be without it. */
export function remove(d: Document, kind: Kind, id: string) {
  const list = listOf(d, kind)
  const at = list.findIndex((x) => x.id === id)
  if (at < 0) return
  list.splice(at, 1)
  const gone = <T extends { id: string }>(kind: Kind, all: T[] | undefined, needs: (x: T) => boolean) => {
    for (const x of (all ?? []).filter(needs)) remove(d, kind, x.id)
  }
  if (kind === 'rig') {
    gone('path', d.paths, (p) => p.shape.track?.rig === id)
    for (const r of d.rigs) {
      if (leadOf(r)?.rig === id) setLead(r, undefined)
      if (r.inStep === id) delete r.inStep
    }
    for (const p of d.paths) for (const s of p.steps ?? []) if (s.wave?.with === id) delete s.wave.with
  } else if (kind === 'fixture') {
    gone('path', d.paths, (p) => p.shape.over?.fixture === id)
  } else if (kind === 'part') {
    gone('rig', d.rigs, (r) => r.part === id)
    gone('fixture', d.fixtures, (f) => f.part === id)
    for (const r of d.rigs) {
      if (!r.train?.others) continue
      r.train.others = r.train.others.filter((o) => o.part !== id)
      if (!r.train.others.length) delete r.train.others
    }
  } else if (kind === 'path') {
    gone('rig', d.rigs, (r) => r.path === id)
    gone('tug', d.tugs, (t) => t.path === id)
    for (const t of d.tugs ?? []) if (t.wheel?.path === id) delete t.wheel
    for (const c of d.carriers ?? []) {
      if (c.ride?.path === id) delete c.ride
      // It rides on the ground on the wheels of its belts only.
      const roads = d.paths.some(
        (p) => (p.carrier ?? d.master) === c.id && p.shape.wrap?.wheels.some((w) => w.ground && !w.free),
      )
      if (!roads) delete c.ground
    }
    for (const r of d.rigs.filter((r) => r.facing.guide === id)) {
      delete r.facing.guide
      if (r.facing.mode === 'guide') r.facing.mode = 'least-twist'
    }
    for (const p of d.paths) {
      for (const s of p.steps ?? []) if (s.join) s.join.paths = s.join.paths.filter((x) => x !== id)
      if (p.steps) p.steps = p.steps.filter((s) => !s.join || s.join.paths.length > 0)
    }
  } else if (kind === 'carrier') {
    if (d.master === id) delete d.master
    gone('path', d.paths, (p) => p.shape.track?.carrier === id)
    for (const x of [...d.paths, ...(d.fixtures ?? []), ...(d.tugs ?? [])]) if (x.carrier === id) delete x.carrier
    for (const c of d.carriers ?? []) if (c.parent === id) delete c.parent
    for (const h of d.paths.map((p) => p.shape.hang)) {
      if (h?.fromCarrier === id) delete h.fromCarrier
      if (h?.toCarrier === id) delete h.toCarrier
    }
    for (const p of d.paths) for (const w of p.shape.wrap?.wheels ?? []) if (w.carrier === id) delete w.carrier
  }
  freeValues(
    d,
    `${{ rig: 'rigs', carrier: 'carriers', tug: 'tugs', path: 'paths' }[kind as 'rig']}/${id}/`,
    kind === 'carrier' ? id : '',
  )
}

/** Values that followed what has gone stand still at 0. */
function freeValues(d: Document, prefix: string, carrier: string) {
  const free = (v: Value | undefined): Value | undefined =>
    typeof v === 'object' && (('of' in v && v.of.startsWith(prefix)) || ('rolls' in v && v.rolls === carrier)) ? 0 : v
  for (const r of d.rigs) {
    r.travel = free(r.travel) ?? 0
    r.offset = free(r.offset)
    r.facing.roll = free(r.facing.roll)
    if (r.body) {
      r.body.tail = free(r.body.tail)
      r.body.head = free(r.body.head)
      r.body.twist = free(r.body.twist)
    }
    for (const b of blendsOf(r)) b.amount = free(b.amount) ?? 0
  }
  for (const w of d.paths.flatMap((p) => p.steps ?? []).map((s) => s.wave)) {
    if (!w) continue
    w.side = free(w.side)
    w.up = free(w.up)
    w.phase = free(w.phase)
  }
  for (const c of d.carriers ?? []) {
    c.at = c.at.map((v) => free(v) ?? 0) as typeof c.at
    if (c.turn) c.turn = { heading: free(c.turn.heading), pitch: free(c.turn.pitch), bank: free(c.turn.bank) }
    if (c.ride) c.ride.distance = free(c.ride.distance) ?? 0
  }
  for (const t of d.tugs ?? []) if (t.pull) t.pull = t.pull.map((v) => free(v) ?? 0) as typeof t.pull
}

/** How many things go with a thing. */
export function dependants(d: Document, kind: Kind, id: string): number {
  const without = JSON.parse(JSON.stringify(d)) as Document
  remove(without, kind, id)
  const kinds: Kind[] = ['rig', 'path', 'part', 'fixture', 'carrier', 'tug']
  const count = (x: Document) => kinds.reduce((n, k) => n + listOf(x, k).length, 0)
  const before = JSON.parse(JSON.stringify(d)) as Document
  return count(before) - count(without) - 1
}
