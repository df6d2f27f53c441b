import { rigForms } from './forms'
import type { Lead, Rig } from './page.generated'

// What rigs of all kinds have, wherever their kind keeps it.

/** The words of the kinds: what a rig has one of, beside what all rigs have. */
export type RigKind = Exclude<
  keyof Rig,
  'id' | 'name' | 'path' | 'part' | 'scale' | 'facing' | 'travel' | 'offset' | 'inStep' | 'tints'
>

/** What a rig is. */
export const kindOf = (r: Rig): RigKind => (Object.keys(rigForms) as RigKind[]).find((k) => r[k]) ?? 'train'

/** How its pieces sit on the path. */
export const seatOf = (r: Rig) => r.train?.seat ?? (r.body ? 'bent' : 'pivot')

/** Its pieces do not bend, so that they can touch what falls. */
export const isRigid = (r: Rig) => seatOf(r) !== 'bent' && !r.drape && !r.cycle

/** What ties it to another rig. */
export const leadOf = (r: Rig): Lead | undefined => (r.rider ?? r.body)?.lead

export function setLead(r: Rig, lead: Lead | undefined): void {
  const own = r.rider ?? r.body
  if (own) own.lead = lead
}

/** The other shapes of its part that it shows. */
export const blendsOf = (r: Rig) => (r.train ?? r.body)?.blends ?? []

/** What the ways of facing are called. */
export const facingNames = {
  loopside: 'outward of the loop',
  steady: 'fixed up',
  'least-twist': 'least twist',
  guide: 'towards a guide',
  turn: 'into the bend',
} as const
